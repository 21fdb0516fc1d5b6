import type { PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { Empty } from '@/ui/States';
import { counted } from '@/words/figures';
import { Captured } from './RunView';
import type { Loads } from './useLoads';

export type FeederViewProps = {
  loads: Loads;
  half: '' | 'fronts' | 'backs';
  sides: 'one' | 'both' | 'apart';
  empty: boolean;
  pages: ReadonlyMap<number, PageRow>;
};

/** Before the feeder takes anything in: what to lay there, and which sheets of a mixed bundle have a back. */
export function FeederView({ loads, half, sides, empty, pages }: FeederViewProps) {
  if (half === 'backs' && loads.pair?.fronts.files.length) return <BacksView loads={loads} pages={pages} />;
  return (
    <div className="min-h-0 flex-1 bg-surround text-on-accent">
      <Empty title={titleOf(sides, half)}>
        <p>{wordsOf(half, empty)}</p>
        {loads.unwoven && (
          <Button className="mt-4 text-ink" onClick={loads.askToWeave}>
            Bring fronts and backs together …
          </Button>
        )}
      </Empty>
    </div>
  );
}

/** The fronts that are in: those without a back are marked, and only the others are laid in again. */
function BacksView({ loads, pages }: Pick<FeederViewProps, 'loads' | 'pages'>) {
  const { pair, single, setSingle } = loads;
  const files = pair?.fronts.files ?? [];
  const toggle = (sheet: number) => {
    const next = new Set(single);
    if (!next.delete(sheet)) next.add(sheet);
    setSingle(next);
  };
  const left = files.length - single.size;
  const taken = [...single].sort((a, b) => a - b).map((sheet) => sheet + 1);
  return (
    <section
      aria-label="Which sheets have a back"
      className="flex min-h-0 flex-1 flex-col bg-surround text-on-accent"
    >
      <div className="shrink-0 px-4 pt-4 pb-3">
        <h2 className="text-title font-semibold">Now the backs</h2>
        <p role="status">
          {taken.length
            ? `Take out ${taken.length === 1 ? 'sheet' : 'sheets'} ${taken.join(', ')}, turn the other ${left} over together, and lay them in.`
            : 'Turn the whole bundle over and lay it in again. In a mixed bundle, first mark the sheets that have no back.'}
        </p>
      </div>
      <ol
        aria-label="Fronts"
        className="grid min-h-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(120px,1fr))] gap-3 overflow-y-auto px-4 pb-4"
      >
        {files.map(({ index, page }, sheet) => (
          <li key={index}>
            <button
              type="button"
              aria-pressed={single.has(sheet)}
              aria-label={`Sheet ${sheet + 1} has no back`}
              onClick={() => toggle(sheet)}
              className={`flex w-full flex-col gap-1 rounded-md p-2 ${single.has(sheet) ? 'bg-accent' : 'bg-surround'}`}
            >
              <span
                className={`flex h-[132px] w-full items-center justify-center ${single.has(sheet) ? 'opacity-60' : ''}`}
              >
                {pair && <Captured run={pair.fronts} index={index} page={pages.get(page ?? -1)} />}
              </span>
              <span className="flex w-full justify-between">
                <span className="font-mono">{sheet + 1}</span>
                <span className="text-small">{single.has(sheet) ? 'no back' : ''}</span>
              </span>
            </button>
          </li>
        ))}
      </ol>
      <p className="shrink-0 border-t border-hairline bg-ground px-4 py-3 text-ink">
        {counted(left, 'back')} to come, for {counted(files.length, 'front')}
      </p>
    </section>
  );
}

const titleOf = (sides: string, half: string) =>
  half === 'fronts'
    ? 'First the fronts'
    : half === 'backs'
      ? 'Now the backs'
      : sides === 'both'
        ? 'Both sides at once'
        : 'The feeder';

function wordsOf(half: string, empty: boolean): string {
  if (half === 'backs')
    return 'Turn the whole bundle over, lay it in again, and capture the backs. Sheets without a back can be marked afterwards.';
  if (empty) return 'The feeder is empty: lay the bundle in, its guides snug against the paper.';
  if (half === 'fronts') return 'Lay the bundle in, give the number of sheets, and capture the fronts.';
  return 'Lay the bundle in, its guides snug against the paper, and capture. Pages appear here as they come.';
}
