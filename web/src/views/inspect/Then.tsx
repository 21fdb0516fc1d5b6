import type { Waiting } from '@/engine/inspect/queue';
import { keyOf } from '@/engine/inspect/queue';
import { count } from '@/words/figures';

export type ThenProps = {
  queue: readonly Waiting[];
  at: number;
  kinds: readonly { title: string; count: number; at: number }[];
  /** Goes so far on in the queue. */
  onStep: (by: number) => void;
};

/** So many of those that follow are listed. */
const AHEAD = 6;

/** What follows, and how much there is of each kind. */
export function Then({ queue, at, kinds, onStep }: ThenProps) {
  const ahead = queue.slice(at + 1, at + 1 + AHEAD);
  return (
    <div className="grid gap-x-10 gap-y-6 px-7 pt-6 pb-8 lg:grid-cols-[1fr_22rem]">
      <section aria-labelledby="then">
        <h3 id="then" className="mb-1 font-semibold">
          Then
        </h3>
        {ahead.length === 0 && <p className="text-soft">This is the last one.</p>}
        <ul>
          {ahead.map((one, place) => (
            <li key={keyOf(one.finding)} className="border-b border-hairline">
              <button
                type="button"
                className="flex w-full gap-4 py-2 text-left hover:bg-hover"
                onClick={() => onStep(place + 1)}
              >
                <span className="w-12 shrink-0 font-mono">{one.page ? count(one.page.number) : 'stack'}</span>
                <span className="min-w-0 flex-1 truncate">
                  {one.finding.title} <span className="text-soft">· {one.finding.message}</span>
                </span>
              </button>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="kinds">
        <h3 id="kinds" className="mb-1 font-semibold">
          All that waits
        </h3>
        <ul>
          {kinds.map(({ title, count: many, at: first }) => (
            <li key={title} className="border-b border-hairline">
              <button
                type="button"
                className="flex w-full justify-between gap-4 py-2 text-left hover:bg-hover"
                onClick={() => onStep(first - at)}
              >
                <span className="min-w-0 truncate">{title}</span>
                <span className="font-mono">{count(many)}</span>
              </button>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
