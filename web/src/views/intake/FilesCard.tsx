import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { expectedQuery, quotasQuery, useWatch, watchQuery } from '@/api/intake';
import type { ExpectedFile, PageRow, Quota, Watch } from '@/api/types';
import { notify } from '@/engine/notices';
import type { Named } from '@/engine/uploads/files';
import { dropUpload } from '@/engine/uploads/stackUploads';
import { useFilePicker } from '@/hooks/useFilePicker';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Pop } from '@/ui/Pop';
import { Tip } from '@/ui/Tip';
import { bytes, counted } from '@/words/figures';

export type FilesCardProps = {
  stackId: number | undefined;
  page: PageRow | undefined;
  /** Uploads that are under way here. */
  ids: ReadonlySet<number>;
  onFiles: () => void;
  onFolder: () => void;
  onAfter: (files: Named[]) => void;
  /** Goes back to the files on their way, where there are some that are not before one's eyes. */
  onShow?: () => void;
};

/** Files into the stack: dropped anywhere, chosen, gone on with, or put into a folder that is watched. */
export function FilesCard({ stackId, page, ids, onFiles, onFolder, onAfter, onShow }: FilesCardProps) {
  return (
    <section
      aria-label="Files"
      className="flex max-w-82 min-w-50 flex-1 flex-col gap-1 rounded-sm border border-dashed border-control px-3 py-1.5 text-small"
    >
      <h2 className="font-semibold">Files, folders, photographs</h2>
      <Tip text="TIFF, PNG, JPEG, JPEG 2000, WebP, BMP, PDF, or a ZIP of them">
        <p className="text-soft">Drop them anywhere here, or choose them.</p>
      </Tip>
      <div className="mt-auto flex flex-wrap gap-1.5">
        <Button size="small" onClick={onFiles}>
          Add files …
        </Button>
        <Button size="small" onClick={onFolder}>
          Add a folder …
        </Button>
        {onShow && (
          <Button size="small" onClick={onShow}>
            On their way …
          </Button>
        )}
        {stackId !== undefined && <MoreWays stackId={stackId} page={page} onAfter={onAfter} />}
      </div>
      {stackId !== undefined && <Interrupted stackId={stackId} ids={ids} onChoose={onFiles} />}
      {stackId !== undefined && <NearlyFull stackId={stackId} />}
    </section>
  );
}

function MoreWays({ stackId, page, onAfter }: Pick<FilesCardProps, 'page' | 'onAfter'> & { stackId: number }) {
  const picker = useFilePicker(onAfter);
  const { data: watch } = useQuery(watchQuery(stackId));
  return (
    <>
      {picker.inputs}
      <Pop
        label="More ways for files"
        className="w-96"
        trigger={
          <Button kind="quiet" size="small">
            {watch?.on ? 'Watched folder …' : 'More …'}
          </Button>
        }
      >
        <div className="flex flex-col gap-4">
          {page && <Button onClick={picker.chooseFiles}>Put files in after page {page.number} …</Button>}
          {watch && <WatchedFolder stackId={stackId} watch={watch} />}
        </div>
      </Pop>
    </>
  );
}

/** From so much of a quota on it is said. */
const NEAR = 0.8;

function NearlyFull({ stackId }: { stackId: number }) {
  const { data: quotas = [] } = useQuery(quotasQuery(stackId));
  return quotas
    .filter(({ used, most }) => used >= NEAR * most)
    .map(({ whose, used, most }: Quota) => (
      <p key={whose} role="status" className="border-l-3 border-ink pl-2">
        {whose === 'stack' ? 'This stack holds' : 'What you have added comes to'}{' '}
        <span className="font-mono">{bytes(used)}</span> of the <span className="font-mono">{bytes(most)}</span>{' '}
        {whose === 'stack' ? 'it may hold. Begin another one soon.' : 'you may add. Ask an administrator for more.'}
      </p>
    ));
}

/** Files that were announced and have not come in, and are not on their way here. */
function Interrupted({ stackId, ids, onChoose }: { stackId: number; ids: ReadonlySet<number>; onChoose: () => void }) {
  const client = useQueryClient();
  const { data: expected = [] } = useQuery(expectedQuery(stackId));
  const files = expected.filter(({ id }) => !ids.has(id));
  if (files.length === 0) return null;
  const one = files.length === 1;
  const skip = async () => {
    try {
      for (const { id } of files) await dropUpload(id);
    } catch (problem) {
      notify((problem as Error).message);
    }
    client.invalidateQueries({ queryKey: ['expected', stackId] });
    client.invalidateQueries({ queryKey: ['stack', stackId] });
  };
  return (
    <section aria-label="Interrupted uploads" className="flex flex-col gap-1.5 border-l-3 border-ink pl-2">
      <p>
        {counted(files.length, 'interrupted upload')}. Choose {one ? 'the file' : 'the files'} again, or the folder:{' '}
        {one ? 'it goes' : 'they go'} on where {one ? 'it' : 'they'} stopped.
      </p>
      <FileList files={files} />
      <div className="flex gap-1.5">
        <Button size="small" onClick={onChoose}>
          Choose …
        </Button>
        <Button kind="quiet" size="small" onClick={skip}>
          {one ? 'Skip' : 'Skip all'}
        </Button>
      </div>
    </section>
  );
}

const LISTED = 3;

function FileList({ files }: { files: readonly ExpectedFile[] }) {
  return (
    <ul>
      {files.slice(0, LISTED).map((file) => (
        <li key={file.id} className="flex gap-2">
          <span className="min-w-0 flex-1 truncate">{file.name}</span>
          <span className="font-mono text-soft">
            {bytes(file.received)} of {bytes(file.bytes)}
          </span>
        </li>
      ))}
      {files.length > LISTED && <li className="text-soft">and {files.length - LISTED} more</li>}
    </ul>
  );
}

function WatchedFolder({ stackId, watch }: { stackId: number; watch: Watch }) {
  const { mutate } = useWatch(stackId);
  const [on, setOn] = useState(watch.on);
  useEffect(() => setOn(watch.on), [watch.on]);
  const change = (wish: boolean) => {
    setOn(wish);
    mutate(wish, { onError: () => setOn(watch.on) });
  };
  return (
    <section aria-label="Watched folder" className="flex flex-col gap-2">
      <Check label="Watch a folder on the server" value={on} onChange={change} />
      {on ? (
        <>
          <p className="text-small">What is put here comes in once it is complete, and is moved to “taken”:</p>
          <p className="rounded-sm bg-ground p-2 font-mono text-small break-all select-text">{watch.folder}</p>
          <p className="font-mono text-small" role="status">
            {counted(watch.taken, 'file')} added
          </p>
        </>
      ) : (
        <p className="text-small text-soft">Off: nothing comes in by itself.</p>
      )}
      {watch.notes.length > 0 && (
        <ul aria-label="Not added" className="flex flex-col gap-1 text-small">
          {watch.notes.map((note) => (
            <li key={note.name + note.sentence} className="border-l-3 border-ink pl-2">
              <span className="font-semibold break-all">{note.name}</span>: {note.sentence}
              {note.gone && ' It lies in “left out”.'}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
