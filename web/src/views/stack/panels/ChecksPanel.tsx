import { useQuery } from '@tanstack/react-query';
import { findingsQuery } from '@/api/inspection';
import type { PageRow } from '@/api/types';
import { Loading } from '@/ui/States';
import { counted } from '@/words/figures';

export type ChecksPanelProps = {
  stackId: number;
  change: number;
  pages: readonly PageRow[];
  onPage: (id: number) => void;
};

/** What is worth a look in the stack as a whole: pages missing, twice there, out of place, or unlike their fellows. */
export function ChecksPanel({ stackId, change, pages, onPage }: ChecksPanelProps) {
  const { data: found, error } = useQuery(findingsQuery(stackId, change));
  const data = found?.findings.filter(({ together, fine }) => together && !fine);
  const place = new Map(pages.map((page) => [page.id, page.number]));
  if (error)
    return (
      <p role="alert" className="p-4">
        {error.message}
      </p>
    );
  if (!data) return <Loading label="Checking" className="m-4 h-24" />;
  return (
    <div className="flex flex-col gap-3 p-4">
      <h2 className="font-semibold">
        {data.length === 0 ? 'Nothing to look at' : counted(data.length, 'thing to look at', 'things to look at')}
      </h2>
      {data.length === 0 && (
        <p>No page number is missing or there twice, no image is here twice, and pages of a kind are of one size.</p>
      )}
      <ul aria-label="Checks" className="flex flex-col">
        {data.map((finding) => (
          <li key={`${finding.kind} ${finding.page} ${finding.judged}`} className="border-t border-hairline">
            {finding.page === null ? (
              <p className="py-2">{finding.message}</p>
            ) : (
              <button
                type="button"
                onClick={() => finding.page !== null && onPage(finding.page)}
                className="w-full rounded-sm px-1 py-2 text-left hover:bg-hover"
              >
                <span className="font-mono text-small text-soft">
                  {place.get(finding.page)} {finding.title}
                </span>
                <br />
                {finding.message}
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
