import { useQuery } from '@tanstack/react-query';
import { Link } from 'wouter';
import { coverSheetsQuery } from '@/api/covers';
import type { CoverSheet, PageRow } from '@/api/types';
import { coverWords } from '@/words/covers';
import { counted } from '@/words/figures';
import { Said } from './Said';

type Of = { stackId: number; pages: readonly PageRow[] };

/** Why pages behind cover sheets stay in this stack, where some do: the first such sheet, and how many more there are. */
export function LeftUnderCover({ stackId, pages }: Of) {
  const { data: sheets = [] } = useQuery(coverSheetsQuery(stackId, pages));
  const [first, ...others] = sheets.filter(({ left }) => left > 0);
  const page = pages.find(({ id }) => id === first?.page);
  if (!first || !page) return null;
  return (
    <Said>
      Page {page.number} is a cover sheet. <Words sheet={first} />
      {others.length > 0 && ` So it is with ${counted(others.length, 'cover sheet')} more.`}
    </Said>
  );
}

/** What became of the pages behind one cover sheet. */
export function CoverSaid({ stackId, pages, page }: Of & { page: PageRow }) {
  const { data: sheets = [] } = useQuery(coverSheetsQuery(stackId, pages));
  const sheet = sheets.find((one) => one.page === page.id);
  return sheet ? <Words sheet={sheet} /> : null;
}

function Words({ sheet }: { sheet: CoverSheet }) {
  return (
    <>
      {coverWords(sheet)}{' '}
      {sheet.stack !== null && !sheet.in_bin && sheet.filed + sheet.left > 0 && (
        <Link href={`/stacks/${sheet.stack}`} className="underline">
          Open that stack
        </Link>
      )}
    </>
  );
}
