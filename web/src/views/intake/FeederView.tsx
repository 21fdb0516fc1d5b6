import type { PageRow } from '@/api/types';
import type { LoadsModel } from '@/hooks/useLoads';
import type { PaperModel } from '@/hooks/usePaper';
import { Button } from '@/ui/Button';
import { counted } from '@/words/figures';
import { paperWords } from '@/words/paper';
import { Captured } from './Captured';
import { type CaptureButton, CaptureEdge } from './CaptureEdge';
import { Device } from './Device';
import { PaperAsk, PaperPicture } from './PaperAsk';

export type FeederViewProps = {
  loads: LoadsModel;
  half: '' | 'fronts' | 'backs';
  sides: 'one' | 'both' | 'apart';
  empty: boolean;
  pages: ReadonlyMap<number, PageRow>;
  capture: CaptureButton | undefined;
  paper: PaperModel;
};

/** Before the feeder takes anything in: what to lay there, and which sheets of a mixed bundle have a back. */
export function FeederView({ loads, half, sides, empty, pages, capture, paper }: FeederViewProps) {
  if (half === 'backs' && loads.pair?.fronts.files.length)
    return <BacksView loads={loads} pages={pages} capture={capture} paper={paper} />;
  return (
    <section aria-label="Feeder" className="flex min-h-0 min-w-0 flex-1 flex-col text-surround-ink">
      <div className="flex flex-1 flex-col items-center justify-center gap-3 p-6 text-center">
        {capture &&
          (paper.known ? (
            <PaperPicture paper={paper} source="feeder" className="w-52" />
          ) : (
            <Device source="feeder" twoSided={sides === 'both'} className="w-40" />
          ))}
        <h2 className="text-title font-semibold">{titleOf(sides, half)}</h2>
        <p className="max-w-[52ch]">
          {paper.known && paperWords('feeder', paper.known)} {wordsOf(half, empty, paper.known !== undefined)}
        </p>
        {capture && <PaperAsk paper={paper} />}
        {loads.unwoven && (
          <Button onClick={() => loads.happen({ kind: 'weave' })}>Bring fronts and backs together …</Button>
        )}
        <CaptureEdge capture={capture} />
      </div>
    </section>
  );
}

/** The fronts that are in: those without a back are marked, and only the others are laid in again. */
function BacksView({ loads, pages, capture, paper }: Pick<FeederViewProps, 'loads' | 'pages' | 'capture' | 'paper'>) {
  const { pair, single, left, markSingle } = loads;
  const files = pair?.fronts.files ?? [];
  const toggle = (sheet: number) => {
    const next = new Set(single);
    if (!next.delete(sheet)) next.add(sheet);
    markSingle(next);
  };
  const taken = [...single].sort((a, b) => a - b).map((sheet) => sheet + 1);
  return (
    <section aria-label="Which sheets have a back" className="flex min-h-0 min-w-0 flex-1 flex-col text-surround-ink">
      <div className="shrink-0 px-5 pt-4 pb-3">
        <h2 className="text-title font-semibold">Now the backs</h2>
        <p role="status">
          {taken.length
            ? `Take out ${taken.length === 1 ? 'sheet' : 'sheets'} ${taken.join(', ')}, turn the other ${left} over together, and lay them in.`
            : 'Turn the whole bundle over and lay it in again. In a mixed bundle, first mark the sheets that have no back.'}
        </p>
      </div>
      <ol
        aria-label="Fronts"
        className="grid min-h-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(7.5rem,1fr))] gap-3 overflow-y-auto px-5 pb-4"
      >
        {files.map(({ index, page }, sheet) => (
          <li key={index}>
            <button
              type="button"
              aria-pressed={single.has(sheet)}
              aria-label={`Sheet ${sheet + 1} has no back`}
              onClick={() => toggle(sheet)}
              className={`flex w-full flex-col gap-1 p-2 ${single.has(sheet) ? 'bg-paper' : ''}`}
            >
              <span className={`flex h-32 w-full items-center justify-center ${single.has(sheet) ? 'opacity-60' : ''}`}>
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
      <CaptureEdge capture={capture}>
        <p className="text-small">
          {counted(left, 'back')} to come, for {counted(files.length, 'front')}
        </p>
        <p className="min-w-0 flex-1 basis-56 text-small">{paper.known && paperWords('feeder', paper.known)}</p>
        <PaperPicture paper={paper} source="feeder" className="h-14 shrink-0" />
      </CaptureEdge>
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

function wordsOf(half: string, empty: boolean, known: boolean): string {
  if (half === 'backs')
    return 'Turn the whole bundle over, lay it in again, and capture the backs. Sheets without a back can be marked afterwards.';
  // Where it is known how paper goes in, that was said already, the guides with it.
  const lay = known ? '' : 'Lay the bundle in, its guides snug against the paper. ';
  if (empty) return `${lay}The feeder is empty.`;
  if (half === 'fronts') return `${lay}Give the number of sheets, and capture the fronts.`;
  return `${lay}Pages appear here as they come.`;
}
