import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { remove } from '@/api/client';
import { expectedQuery, quotasQuery, useWatch, watchQuery } from '@/api/intake';
import type { ExpectedFile, PageRow, Quota, Watch } from '@/api/types';
import type { Named } from '@/engine/uploads/files';
import { useFilePicker } from '@/hooks/useFilePicker';
import { Button } from '@/ui/Button';
import { notify } from '@/ui/Notices';
import { bytes, counted } from '@/words/figures';

export type FilesPanelProps = {
  stackId: number;
  change: number;
  page: PageRow | undefined;
  /** Uploads that are under way here. */
  ids: ReadonlySet<number>;
  onFiles: (files: Named[], where?: { after: number }) => void;
};

/** Files into the stack: chosen, gone on with, or put into a folder that is watched. */
export function FilesPanel({ stackId, change, page, ids, onFiles }: FilesPanelProps) {
  const atEnd = useFilePicker((files) => onFiles(files));
  const behind = useFilePicker((files) => page && onFiles(files, { after: page.id }));
  const { data: expected = [] } = useQuery(expectedQuery(stackId));
  const { data: watch } = useQuery(watchQuery(stackId, change));
  const { data: quotas = [] } = useQuery(quotasQuery(stackId));
  const broken = expected.filter(({ id }) => !ids.has(id));
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-5 overflow-y-auto p-4">
      <section aria-label="Files" className="flex flex-col gap-2">
        {atEnd.inputs}
        {quotas.filter(isNear).map((quota) => (
          <NearlyFull key={quota.whose} quota={quota} />
        ))}
        <p>
          Drop files or a folder anywhere on the left, or choose them. A ZIP stands for the files in it; photographs are
          looked at as soon as they are in.
        </p>
        <div className="flex gap-2">
          <Button className="flex-1" onClick={atEnd.chooseFiles}>
            Add files …
          </Button>
          <Button className="flex-1" onClick={atEnd.chooseFolder}>
            Add a folder …
          </Button>
        </div>
        {page && (
          <>
            {behind.inputs}
            <Button onClick={behind.chooseFiles}>Insert files behind page {page.number} …</Button>
          </>
        )}
      </section>
      {broken.length > 0 && <Broken stackId={stackId} files={broken} onChoose={atEnd.chooseFiles} />}
      {watch && <WatchedFolder stackId={stackId} watch={watch} />}
    </div>
  );
}

/** From so much of a quota on it is said. */
const NEAR = 0.8;
const isNear = ({ used, most }: Quota) => used >= NEAR * most;

function NearlyFull({ quota: { whose, used, most } }: { quota: Quota }) {
  return (
    <p role="status" className="border-l-2 border-ink pl-3">
      {whose === 'stack' ? 'This stack holds' : 'What you have taken in comes to'}{' '}
      <span className="font-mono">{bytes(used)}</span> of the <span className="font-mono">{bytes(most)}</span>{' '}
      {whose === 'stack' ? 'it may hold: begin another one soon.' : 'you may take in: ask an administrator for more.'}
    </p>
  );
}

function Broken({ stackId, files, onChoose }: { stackId: number; files: ExpectedFile[]; onChoose: () => void }) {
  const client = useQueryClient();
  const leaveOut = async () => {
    try {
      for (const { id } of files) await remove(`/api/v1/uploads/${id}`);
    } catch (problem) {
      notify((problem as Error).message);
    }
    client.invalidateQueries({ queryKey: ['expected', stackId] });
  };
  return (
    <section aria-label="Broken off" className="flex flex-col gap-2 border-l-2 border-ink pl-3">
      <p>
        {counted(files.length, 'file')} broken off on the way. Choose {files.length === 1 ? 'it' : 'them'} again, or the
        folder: {files.length === 1 ? 'it goes' : 'they go'} on where {files.length === 1 ? 'it' : 'they'} stopped.
      </p>
      <ul className="max-h-32 overflow-y-auto text-small">
        {files.map((file) => (
          <li key={file.id} className="flex gap-2">
            <span className="min-w-0 flex-1 truncate" title={file.name}>
              {file.name}
            </span>
            <span className="font-mono text-soft">
              {bytes(file.received)} of {bytes(file.bytes)}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button className="flex-1" onClick={onChoose}>
          Choose …
        </Button>
        <Button className="flex-1" onClick={leaveOut}>
          Leave out
        </Button>
      </div>
    </section>
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
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={on}
          onChange={(event) => change(event.target.checked)}
          className="size-4 accent-accent"
        />
        Watch a folder on the server
      </label>
      {on ? (
        <>
          <p className="text-small">What is put here comes in once it is complete, and is moved to “taken”:</p>
          <p className="rounded-sm bg-panel p-2 font-mono text-small break-all select-text">{watch.folder}</p>
          <p className="font-mono text-small" role="status">
            {counted(watch.taken, 'file')} taken
          </p>
        </>
      ) : (
        <p className="text-small text-soft">Off: nothing comes in by itself.</p>
      )}
      {watch.notes.length > 0 && (
        <ul aria-label="Not taken" className="flex flex-col gap-1 text-small">
          {watch.notes.map((note) => (
            <li key={note.name + note.sentence} className="border-l-2 border-ink pl-2">
              <span className="font-semibold break-all">{note.name}</span>: {note.sentence}
              {note.gone && ' It lies in “left out”.'}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
