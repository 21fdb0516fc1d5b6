import { useSyncExternalStore } from 'react';
import { Link } from 'wouter';
import { bytes } from '../../format';
import { Bar } from '../../parts/Bar';
import { Button } from '../../parts/Button';
import type { Upload, UploadQueue } from '../../upload/queue';

/** Files on their way into a stack: all together, and each with how far it is. */
export function Taking({ queue, stackId }: { queue: UploadQueue; stackId: number }) {
  const uploads = useSyncExternalStore(queue.subscribe, queue.get);
  const total = uploads.reduce((sum, one) => sum + one.size, 0);
  const sent = uploads.reduce((sum, one) => sum + one.sent, 0);
  const done = uploads.filter((one) => one.state === 'done').length;
  const failed = uploads.filter((one) => one.state === 'failed' || one.state === 'twice').length;
  return (
    <>
      <div className="flex items-center gap-4">
        <div className="flex-1">
          <p aria-live="polite">
            <span className="font-mono">
              {done}/{uploads.length}
            </span>{' '}
            files taken in{failed ? `, ${failed} not` : ''}
            <span className="ml-3 font-mono text-soft-ink">
              {bytes(sent)} of {bytes(total)}
            </span>
          </p>
          <Bar label="All files" value={sent} max={total} className="mt-2" />
        </div>
        <Button kind="main" asChild>
          <Link href={`/stacks/${stackId}`}>
            {done + failed === uploads.length ? 'Open the stack' : 'Open it meanwhile'}
          </Link>
        </Button>
      </div>
      <ul
        className="min-h-0 flex-1 overflow-y-auto rounded-md border border-line bg-raised"
        aria-label="Files being taken in"
      >
        {uploads.map((upload) => (
          <UploadRow key={upload.key} upload={upload} retry={() => queue.retry(upload.key)} />
        ))}
      </ul>
    </>
  );
}

const WORDS: Record<Upload['state'], string> = {
  waiting: 'waits',
  sending: 'being sent',
  done: 'taken in',
  failed: 'not taken in',
  twice: 'here already',
};

function UploadRow({ upload, retry }: { upload: Upload; retry: () => void }) {
  return (
    <li className="flex min-h-9 items-center gap-3 border-b border-line px-3 py-1">
      <span className="w-10 shrink-0 text-right font-mono text-soft-ink">{upload.key + 1}</span>
      <div className="min-w-0 flex-1">
        <p className="truncate" title={upload.name}>
          {upload.name}
        </p>
        {upload.error && <p role="alert">{upload.error}</p>}
      </div>
      <Bar label={upload.name} value={upload.sent} max={upload.size} className="w-40 shrink-0" />
      <span className="w-20 shrink-0 text-right font-mono text-soft-ink">{bytes(upload.size)}</span>
      <span className="w-24 shrink-0">{WORDS[upload.state]}</span>
      {upload.state === 'failed' && <Button onClick={retry}>Try again</Button>}
      {upload.state === 'twice' && <Button onClick={retry}>Take in all the same</Button>}
    </li>
  );
}
