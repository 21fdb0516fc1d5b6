import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useRef, useSyncExternalStore } from 'react';
import { Link } from 'wouter';
import type { PageRow } from '@/api/types';
import { notify } from '@/engine/notices';
import type { Upload, UploadQueue } from '@/engine/uploads/queue';
import { Bar } from '@/ui/Bar';
import { Button } from '@/ui/Button';
import { Clipped } from '@/ui/Tip';
import { bytes, counted } from '@/words/figures';
import { PhotoVerdict } from './PhotoVerdict';

export type TakingProps = {
  queue: UploadQueue;
  stackId: number;
  pages: ReadonlyMap<number, PageRow>;
  onLeave: () => void;
};

/** Files on their way into a stack: all together, and each with how far it is; of photographs, whether they will do. */
export function Taking({ queue, stackId, pages, onLeave }: TakingProps) {
  const { list, total, sent, done, failed } = useSyncExternalStore(queue.subscribe, queue.get);
  const settled = done + failed === list.length;
  const faulty = list.filter((one) => one.pages.some((id) => pages.get(id)?.faults?.length)).length;
  const frame = useRef<HTMLDivElement>(null);
  // Thousands of files: only the rows in view exist.
  const rows = useVirtualizer({
    count: list.length,
    getScrollElement: () => frame.current,
    estimateSize: () => 40,
    getItemKey: (index) => list[index]?.key ?? index,
    overscan: 6,
  });
  const told = (error: Error) => notify(error.message);
  return (
    <section
      aria-label="Files on their way"
      className="flex min-h-0 min-w-0 flex-1 flex-col gap-3 bg-ground p-5 text-ink"
    >
      <div className="flex flex-wrap items-center gap-3">
        <div className="flex-1 basis-80">
          <p>
            <span className="font-mono">
              {done}/{list.length}
            </span>{' '}
            files added{failed ? `, ${failed} not` : ''}
            {faulty ? `; ${counted(faulty, 'photograph')} worth taking again` : ''}
            <span className="ml-3 font-mono text-small text-soft">
              {bytes(sent)} of {bytes(total)}
            </span>
          </p>
          <Bar label="All files" value={sent} max={total} className="mt-2" />
          {settled && <p role="status" className="sr-only">{`${done} of ${list.length} files added`}</p>}
        </div>
        {!settled && (
          <Button kind="quiet" onClick={() => queue.skipAll().catch(told)}>
            Skip all that wait
          </Button>
        )}
        <Button shortcut="s" onClick={onLeave}>
          Back to the stations
        </Button>
        <Button kind="main" asChild>
          <Link href={`/stacks/${stackId}`}>{settled ? 'Open the stack' : 'Open now'}</Link>
        </Button>
      </div>
      <div ref={frame} className="min-h-[40vh] flex-1 overflow-y-auto border-t border-hairline lg:min-h-0">
        <ul aria-label="Files being added" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, key, start }) => {
            const upload = list[index];
            if (!upload) return null;
            return (
              <li
                key={key}
                ref={rows.measureElement}
                data-index={index}
                className="absolute inset-x-0 border-b border-hairline"
                style={{ transform: `translateY(${start}px)` }}
              >
                <UploadRow upload={upload} page={pages.get(upload.pages[0] ?? -1)} stackId={stackId} queue={queue} />
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}

const WORDS: Record<Upload['state'], string> = {
  waiting: 'waits',
  sending: 'being sent',
  held: 'goes on by itself',
  done: 'added',
  failed: 'not added',
  twice: 'in the stack already',
};

type UploadRowProps = { upload: Upload; page: PageRow | undefined; stackId: number; queue: UploadQueue };

const UploadRow = memo(function UploadRow({ upload, page, stackId, queue }: UploadRowProps) {
  const stuck = upload.state === 'failed' || upload.state === 'twice';
  const still = stuck || upload.state === 'held';
  return (
    <div className="px-1 py-1.5">
      <div className="flex min-h-7 items-center gap-3">
        <span className="w-12 shrink-0 text-right font-mono text-small text-soft">{upload.key + 1}</span>
        <span className="min-w-0 flex-1">
          <Clipped text={upload.name} />
        </span>
        <Bar label={upload.name} value={upload.sent} max={upload.size} className="w-40 shrink-0" />
        <span className="w-20 shrink-0 text-right font-mono text-small text-soft">{bytes(upload.size)}</span>
        <span className="w-40 shrink-0">{WORDS[upload.state]}</span>
      </div>
      {(upload.error || still) && (
        <div className="flex flex-wrap items-center gap-3 pb-1 pl-15">
          <p role="alert" className="min-w-0 flex-1 basis-72">
            {upload.error}
          </p>
          {stuck && (
            <Button size="small" onClick={() => queue.retry(upload.key)}>
              {upload.state === 'twice' ? 'Add anyway' : 'Try again'}
            </Button>
          )}
          {still && (
            <Button
              kind="quiet"
              size="small"
              aria-label={`Skip ${upload.name}`}
              onClick={() => queue.skip(upload.key).catch((error: Error) => notify(error.message))}
            >
              Skip
            </Button>
          )}
        </div>
      )}
      {page?.faults && <PhotoVerdict page={page} faults={page.faults} stackId={stackId} />}
    </div>
  );
});
