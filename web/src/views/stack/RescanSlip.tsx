import { useQuery } from '@tanstack/react-query';
import { findingsQuery } from '@/api/inspection';
import { stackQuery } from '@/api/queries';
import type { InspectFinding, PageRow } from '@/api/types';
import { useStackPages } from '@/hooks/useStackPages';
import { SpotFrame } from '@/ui/SpotFrame';
import { Failed, Loading } from '@/ui/States';
import { count, counted } from '@/words/figures';
import { PrintedSheet } from './PrintedSheet';

/** A list to take to the paper: the pages of a stack that are to be captured again, what they look like, and why. */
export function RescanSlip({ user, stackId }: { user: string; stackId: number }) {
  const { data: stack, error, refetch } = useQuery(stackQuery(stackId));
  const { data } = useStackPages(stackId);
  const { data: found } = useQuery({
    ...findingsQuery(stackId, data?.change ?? 0),
    enabled: data !== undefined,
  });
  if (error && !stack) return <Failed message={error.message} retry={() => refetch()} />;
  if (!stack || !data) return <Loading label="Opening the stack" className="m-6 flex-1" />;
  const again = data.pages.filter(({ rescan }) => rescan);
  return (
    <PrintedSheet
      user={user}
      what="Rescan slip"
      title={stack.name}
      about="Take it to the paper: each page is recaptured in its place, in Intake."
    >
      <p className="mt-2">
        {again.length === 0
          ? 'No page of this stack is to recapture.'
          : `${counted(again.length, 'page')} of ${count(data.pages.length)} to recapture`}
        {stack.original.box && `, from box ${stack.original.box}`}
      </p>
      <ul className="mt-6 border-t border-surround-ink">
        {again.map((page) => (
          <Line
            key={page.id}
            page={page}
            pages={data.pages}
            finding={found?.findings.find((one) => one.page === page.id && one.title === page.rescan)}
          />
        ))}
      </ul>
    </PrintedSheet>
  );
}

type LineProps = { page: PageRow; pages: readonly PageRow[]; finding: InspectFinding | undefined };

function Line({ page, pages, finding }: LineProps) {
  // Upright, as the paper is held; as captured where the spot was cut away, or there is no clean page.
  const clean = page.clean !== null && (!finding?.spot || finding.clean_spot !== null);
  const [width, height] = (clean ? page.clean_px : page.original_px) ?? [3, 4];
  const spot = clean ? finding?.clean_spot : finding?.spot;
  const key = clean ? page.clean : page.original;
  const at = page.number - 1;
  const beside = [pages[at - 1], pages[at + 1]].flatMap((one) =>
    one ? [one.printed ? `number ${one.printed}` : `page ${one.number}`] : [],
  );
  return (
    <li className="flex break-inside-avoid gap-6 border-b border-surround-ink py-3">
      <span className="block w-[28mm] shrink-0">
        {key && (
          <span className="relative block" style={{ aspectRatio: `${width} / ${height}` }}>
            <img
              src={`/thumbs/${clean ? 'render' : 'measure'}/${key}.webp`}
              alt={`Page ${page.number}`}
              className="size-full object-contain"
            />
            {spot && <SpotFrame box={spot} within={[0, 0, width, height]} />}
          </span>
        )}
      </span>
      <span className="min-w-0 flex-1">
        <span className="block font-semibold">
          Page <span className="font-mono">{count(page.number)}</span>
          {page.printed && `, numbered ${page.printed}`}
        </span>
        <span className="block wrap-break-word">{finding?.message ?? page.rescan}</span>
        <span className="block text-small wrap-break-word">
          {page.source}
          {beside.length === 2 && `, between ${beside[0]} and ${beside[1]}`}
        </span>
      </span>
      <span aria-hidden="true" className="mt-1 block size-[6mm] shrink-0 border border-surround-ink" />
    </li>
  );
}
