import { useQuery } from '@tanstack/react-query';
import { papersQuery } from '@/api/dispatch';
import { documentsQuery, stackQuery } from '@/api/queries';
import { Failed, Loading } from '@/ui/States';
import { count, counted } from '@/words/figures';
import { AFTER_WORDS, dayWords, ORIGINAL_WORDS } from '@/words/original';
import { PrintedSheet } from './PrintedSheet';

/** A sheet that lies on top of the papers of a stack: what they are, where they belong, what becomes of them. */
export function CoverSheet({ user, stackId }: { user: string; stackId: number }) {
  const { data: stack, error, refetch } = useQuery(stackQuery(stackId));
  const { data: documents = [] } = useQuery(documentsQuery(stackId));
  const { data: papers } = useQuery(papersQuery(stackId));
  if (error && !stack) return <Failed message={error.message} retry={() => refetch()} />;
  if (!stack) return <Loading label="Opening the stack" className="m-6 flex-1" />;
  const { original } = stack;
  const becomes = original.after
    ? [AFTER_WORDS[original.after], original.after === 'kept' && original.until ? dayWords(original.until) : '']
        .filter(Boolean)
        .join(' ')
    : '';
  const lines: [string, string][] = [
    [ORIGINAL_WORDS.year, original.year],
    [ORIGINAL_WORDS.box, original.box],
    [ORIGINAL_WORDS.shelf, original.shelf],
    [ORIGINAL_WORDS.position, original.position],
    [ORIGINAL_WORDS.after, becomes],
    ...(papers && papers.may !== null ? [['What may be done now', papers.said] as [string, string]] : []),
    ['Who sees to it', original.by],
    ['Pages', count(stack.counts.pages)],
    ['Begun', [dayWords(stack.created_at), stack.by && `by ${stack.by}`].filter(Boolean).join(', ')],
    ['Stack number', String(stack.id)],
  ];
  return (
    <PrintedSheet
      user={user}
      what="Cover sheet"
      title={stack.name}
      about="Lies on top of the papers, and comes in with them: what is captured behind it is filed in this stack. Empty lines are left for a pencil."
      beside={
        <img
          src={`/api/v1/stacks/${stackId}/cover-code`}
          alt="Code by which this sheet is recognised"
          className="size-[40mm] shrink-0"
          style={{ imageRendering: 'pixelated' }}
        />
      }
    >
      <dl className="mt-8 grid grid-cols-[14rem_1fr] border-t border-surround-ink">
        {lines.map(([label, value]) => (
          <div
            key={label}
            className="col-span-2 grid min-h-10 grid-cols-subgrid items-center border-b border-surround-ink py-1"
          >
            <dt className="text-small">{label}</dt>
            <dd className="font-semibold wrap-break-word">{value}</dd>
          </div>
        ))}
      </dl>
      {documents.length > 0 && (
        <>
          <h2 className="mt-8 font-semibold">{counted(documents.length, 'document')} bound</h2>
          <ol className="mt-2 list-inside list-decimal">
            {[...documents].reverse().map(({ id, title, pages }) => (
              <li key={id}>
                {title}, {counted(pages, 'page')}
              </li>
            ))}
          </ol>
        </>
      )}
    </PrintedSheet>
  );
}
