import type { Doing, PageRow } from '@/api/types';
import { Button } from '@/ui/Button';

export type PageActionsProps = {
  page: PageRow;
  busy: boolean;
  onChange: (doing: Doing) => void;
  onCorrect: ((page: PageRow) => void) | undefined;
};

/** What is done with the page that is looked at, beside what is known of it. */
export function PageActions({ page, busy, onChange, onCorrect }: PageActionsProps) {
  if (!page.original) return null;
  return (
    <div className="flex flex-wrap gap-2">
      <Button
        shortcut="a"
        spread="wide"
        disabled={busy}
        onClick={() => onChange({ do: 'aside', pages: [page.id], aside: page.aside === '', reason: 'by hand' })}
      >
        {page.aside ? 'Back into the stack' : 'Hold aside'}
      </Button>
      {onCorrect && (
        <Button shortcut="e" spread="wide" onClick={() => onCorrect(page)}>
          Correct
        </Button>
      )}
    </div>
  );
}
