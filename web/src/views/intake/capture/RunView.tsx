import { useState } from 'react';
import { isOpen } from '@/api/capture';
import type { PageRow, Run } from '@/api/types';
import { Bar } from '@/ui/Bar';
import { Button } from '@/ui/Button';
import { counted } from '@/words/figures';

export type RunViewProps = {
  run: Run;
  pages: ReadonlyMap<number, PageRow>;
  steering: boolean;
  onSteer: (wish: 'go-on' | 'finish' | 'cancel') => void;
  onLeave: () => void;
};

const WORDS: Record<Run['state'], string> = {
  wanted: 'Waits for the station',
  running: 'Capturing',
  stopped: 'Stopped',
  cancelling: 'Being cancelled',
  cancelled: 'Cancelled: nothing of it was kept',
  done: 'Finished: everything is in the stack',
};

/** A load under way: its last page large enough to see whether it is sharp, what came before, and what can be done. */
export function RunView({ run, pages, steering, onSteer, onLeave }: RunViewProps) {
  const [looked, setLooked] = useState<number>();
  const last = run.files.at(-1)?.index;
  const shown = run.files.find(({ index }) => index === (looked ?? last)) ?? run.files.at(-1);
  const sides = run.settings.two_sided ? 2 : 1;
  const expected = run.settings.frames.length || (run.settings.sheets ? run.settings.sheets * sides : 0);
  return (
    <section aria-label="Load" className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 items-center justify-center p-4">
        {shown ? (
          <Captured run={run} index={shown.index} page={pages.get(shown.page ?? -1)} large />
        ) : (
          run.state !== 'cancelled' && (
            <p className="rounded-md bg-surround p-3 text-body text-on-accent">The first page is on its way.</p>
          )
        )}
      </div>
      {run.files.length > 0 && (
        <ul
          aria-label="Captured pages"
          className="flex h-[92px] shrink-0 flex-row-reverse justify-end gap-2 overflow-hidden px-4 pb-3"
        >
          {[...run.files]
            .reverse()
            .slice(0, 14)
            .map(({ index, page }) => (
              <li key={index} className="flex h-full shrink-0">
                <button
                  type="button"
                  aria-label={`Page ${index + 1} of this load`}
                  aria-pressed={index === shown?.index}
                  onClick={() => setLooked(index === last ? undefined : index)}
                  className={`h-full min-w-10 p-1 ${index === shown?.index ? 'bg-accent' : 'bg-surround'} rounded-md`}
                >
                  <Captured run={run} index={index} page={pages.get(page ?? -1)} />
                </button>
              </li>
            ))}
        </ul>
      )}
      <div className="flex shrink-0 flex-col gap-2 border-t border-hairline bg-ground px-4 py-2" aria-live="polite">
        <div className="flex items-center gap-3">
          <span className="text-body">{WORDS[run.state]}</span>
          <span className="text-soft">{run.station_name}</span>
          <span className="ml-auto font-mono">
            {expected ? `${run.received}/${expected}` : counted(run.received, 'image')}
          </span>
          {run.state === 'stopped' && (
            <>
              <Button kind="main" disabled={steering} onClick={() => onSteer('go-on')}>
                Go on <kbd className="font-mono text-small">G</kbd>
              </Button>
              <Button disabled={steering} onClick={() => onSteer('finish')}>
                Finish with what is in <kbd className="font-mono text-small text-soft">F</kbd>
              </Button>
            </>
          )}
          {isOpen(run) || run.state === 'stopped' ? (
            <Button disabled={steering || run.state === 'cancelling'} onClick={() => onSteer('cancel')}>
              Cancel, keep nothing <kbd className="font-mono text-small text-soft">⇧X</kbd>
            </Button>
          ) : (
            <Button kind="main" onClick={onLeave}>
              {run.settings.source === 'platen' ? 'Back to the glass' : 'Next load'}{' '}
              <kbd className="font-mono text-small">N</kbd>
            </Button>
          )}
        </div>
        {run.binds_as && (
          <p>
            Order slip: what comes is corrected and read, then bound as “{run.binds_as}”. Nothing more needs to be done.
          </p>
        )}
        {run.problem && (
          <p role="alert" className="border-l-2 border-ink pl-2 text-body">
            {run.problem}
          </p>
        )}
        {isOpen(run) && expected > 0 && <Bar label="Captured" value={run.received} max={expected} />}
      </div>
    </section>
  );
}

type CapturedProps = { run: Run; index: number; page: PageRow | undefined; large?: boolean };

/** An image of a load: as the station gave it at first, as the small picture made of it later. */
export function Captured({ run, index, page, large }: CapturedProps) {
  const small = page?.original ? `/thumbs/measure/${page.original}.webp` : undefined;
  const [failed, setFailed] = useState(false);
  const source = !large && small ? small : `/api/v1/runs/${run.id}/images/${index}`;
  if (failed && !small) return <span className="text-small text-on-accent">{index + 1}</span>;
  return (
    <img
      src={failed ? small : source}
      alt={`Page ${index + 1} as captured`}
      className="max-h-full max-w-full object-contain"
      onError={() => setFailed(true)}
    />
  );
}
