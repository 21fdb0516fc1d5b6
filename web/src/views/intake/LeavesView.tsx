import { useState } from 'react';
import type { Doing, PageRow, Run } from '@/api/types';
import { leavesOf } from '@/engine/capture/leaves';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Captured } from './Captured';

export type LeavesViewProps = {
  fronts: Run;
  backs: Run;
  pages: ReadonlyMap<number, PageRow>;
  /** Sheets, by 0-based place, that have no back. */
  single: ReadonlySet<number>;
  onSingle: (single: ReadonlySet<number>) => void;
  onApply: (doing: Doing) => void;
  onLeave: () => void;
};

/** Fronts and backs captured apart, as the leaves they will make: looked at, mended, and only then applied. */
export function LeavesView({ fronts, backs, pages, single, onSingle, onApply, onLeave }: LeavesViewProps) {
  const [reverse, setReverse] = useState(true);
  const { leaves, trouble } = leavesOf(fronts.files.length, backs.files.length, single, reverse);
  const ids = (run: Run) => run.files.flatMap(({ page }) => page ?? []);
  const toggle = (sheet: number) => {
    const next = new Set(single);
    if (!next.delete(sheet)) next.add(sheet);
    onSingle(next);
  };
  const apply = () => {
    const front = ids(fronts);
    onApply({
      do: 'leaves',
      fronts: front,
      backs: ids(backs),
      single: [...single].flatMap((sheet) => front[sheet] ?? []),
      reverse,
    });
  };
  let number = 0;
  return (
    <section aria-label="Leaves" className="flex min-h-0 min-w-0 flex-1 flex-col text-surround-ink">
      <div className="flex min-h-14 shrink-0 flex-wrap items-center gap-3 px-5">
        <span>The backs came</span>
        <Choice
          label="Order of the backs"
          value={reverse ? 'reverse' : 'same'}
          onChange={(value) => setReverse(value === 'reverse')}
          options={[
            { value: 'reverse', label: 'from the last sheet' },
            { value: 'same', label: 'from the first sheet' },
          ]}
        />
      </div>
      <ol
        aria-label="Leaves in order"
        className="grid min-h-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(12.5rem,1fr))] gap-4 overflow-y-auto px-5 pb-4"
      >
        {leaves.map((leaf) => {
          number += 1;
          const first = number;
          if (leaf.back !== null) number += 1;
          return (
            <li key={leaf.front} aria-label={`Sheet ${leaf.front + 1}`} className="flex flex-col gap-1">
              <div className="grid h-32 grid-cols-2 gap-0.5">
                <Side run={fronts} index={leaf.front} pages={pages} />
                {leaf.back === null ? (
                  <span className="flex items-center justify-center border border-dashed border-surround-ink text-small">
                    {single.has(leaf.front) ? 'no back' : 'back missing'}
                  </span>
                ) : (
                  <Side run={backs} index={leaf.back} pages={pages} />
                )}
              </div>
              <div className="flex items-center gap-2">
                <span className="font-mono">{leaf.back === null ? first : `${first}, ${first + 1}`}</span>
                <Button
                  size="small"
                  className="ml-auto"
                  pressed={single.has(leaf.front)}
                  onClick={() => toggle(leaf.front)}
                >
                  No back
                </Button>
              </div>
            </li>
          );
        })}
      </ol>
      <div className="flex shrink-0 flex-wrap items-center gap-3 bg-panel px-5 py-3 text-ink">
        <p role="status" className="min-w-0 flex-1">
          {trouble ?? `${leaves.length} leaves: this is the order the pages will have. It can be undone.`}
        </p>
        <Button onClick={onLeave}>Leave them as they came</Button>
        <Button kind="main" disabled={trouble !== undefined} onClick={apply}>
          Put in this order
        </Button>
      </div>
    </section>
  );
}

function Side({ run, index, pages }: { run: Run; index: number; pages: ReadonlyMap<number, PageRow> }) {
  const page = pages.get(run.files[index]?.page ?? -1);
  return (
    <span className="flex h-full min-w-0 items-center justify-center overflow-hidden">
      <Captured run={run} index={index} page={page} />
    </span>
  );
}
