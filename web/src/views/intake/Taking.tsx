import { useSyncExternalStore } from 'react';
import { Link } from 'wouter';
import type { PageRow } from '@/api/types';
import type { Upload, UploadQueue } from '@/engine/uploads/queue';
import { Bar } from '@/ui/Bar';
import { Button } from '@/ui/Button';
import { notify } from '@/ui/Notices';
import { bytes } from '@/words/figures';
import { PhotoVerdict } from './PhotoVerdict';

export type TakingProps = {
  queue: UploadQueue;
  stackId: number;
  pages: ReadonlyMap<number, PageRow>;
  onLeave: () => void;
};

/** Files on their way into a stack: all together, and each with how far it is; of photographs, whether they will do. */
export function Taking({ queue, stackId, pages, onLeave }: TakingProps) {
  const uploads = useSyncExternalStore(queue.subscribe, queue.get);
  const total = uploads.reduce((sum, one) => sum + one.size, 0);
  const sent = uploads.reduce((sum, one) => sum + one.sent, 0);
  const done = uploads.filter((one) => one.state === 'done').length;
  const failed = uploads.filter((one) => one.state === 'failed' || one.state === 'twice').length;
  const settled = done + failed === uploads.length;
  const faulty = uploads.filter((one) => one.pages.some((id) => pages.get(id)?.faults?.length)).length;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 bg-ground p-4">
      <div className="flex items-center gap-3">
        <div className="flex-1">
          <p aria-live="polite">
            <span className="font-mono">
              {done}/{uploads.length}
            </span>{' '}
            files taken in{failed ? `, ${failed} not` : ''}
            {faulty ? `; ${faulty === 1 ? '1 photograph is' : `${faulty} photographs are`} worth taking again` : ''}
            <span className="ml-3 font-mono text-soft">
              {bytes(sent)} of {bytes(total)}
            </span>
          </p>
          <Bar label="All files" value={sent} max={total} className="mt-2" />
        </div>
        <Button onClick={onLeave}>{settled ? 'Done' : 'Back to the stations'}</Button>
        <Button kind="main" asChild>
          <Link href={`/stacks/${stackId}`}>{settled ? 'Open the stack' : 'Open it meanwhile'}</Link>
        </Button>
      </div>
      <ul
        className="min-h-0 flex-1 overflow-y-auto rounded-md border border-hairline bg-panel"
        aria-label="Files being taken in"
      >
        {uploads.map((upload) => (
          <UploadRow
            key={upload.key}
            upload={upload}
            page={pages.get(upload.pages[0] ?? -1)}
            stackId={stackId}
            retry={() => queue.retry(upload.key)}
            leaveOut={() => queue.leaveOut(upload.key).catch((error: Error) => notify(error.message))}
          />
        ))}
      </ul>
    </div>
  );
}

const WORDS: Record<Upload['state'], string> = {
  waiting: 'waits',
  sending: 'being sent',
  held: 'goes on by itself',
  done: 'taken in',
  failed: 'not taken in',
  twice: 'here already',
};

type UploadRowProps = {
  upload: Upload;
  page: PageRow | undefined;
  stackId: number;
  retry: () => void;
  leaveOut: () => void;
};

function UploadRow({ upload, page, stackId, retry, leaveOut }: UploadRowProps) {
  const stuck = upload.state === 'failed' || upload.state === 'twice';
  const still = stuck || upload.state === 'held';
  return (
    <li className="border-b border-hairline px-3 py-1">
      <div className="flex min-h-7 items-center gap-3">
        <span className="w-10 shrink-0 text-right font-mono text-soft">{upload.key + 1}</span>
        <p className="min-w-0 flex-1 truncate" title={upload.name}>
          {upload.name}
        </p>
        <Bar label={upload.name} value={upload.sent} max={upload.size} className="w-40 shrink-0" />
        <span className="w-20 shrink-0 text-right font-mono text-soft">{bytes(upload.size)}</span>
        <span className="w-28 shrink-0">{WORDS[upload.state]}</span>
      </div>
      {(upload.error || still) && (
        <div className="flex items-center gap-3 pb-1 pl-13">
          <p role="alert" className="min-w-0 flex-1">
            {upload.error}
          </p>
          {stuck && <Button onClick={retry}>{upload.state === 'twice' ? 'Take in all the same' : 'Try again'}</Button>}
          {still && (
            <Button kind="quiet" aria-label={`Leave out ${upload.name}`} onClick={leaveOut}>
              Leave out
            </Button>
          )}
        </div>
      )}
      {page?.faults && <PhotoVerdict page={page} faults={page.faults} stackId={stackId} />}
    </li>
  );
}
