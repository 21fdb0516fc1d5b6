import type { PageRow } from '@/api/types';
import { counted } from '@/words/figures';
import { chosenWords } from './panels/ArrangePanel';

export type ChosenLineProps = { chosen: readonly PageRow[]; cut: number };

/** Below the pages: what is chosen, and what was cut and waits for its place. */
export function ChosenLine({ chosen, cut }: ChosenLineProps) {
  return (
    <p
      aria-live="polite"
      className="flex min-h-9 shrink-0 flex-wrap items-center gap-x-6 border-t border-hairline bg-panel px-4 text-small"
    >
      <span>{chosenWords(chosen)}</span>
      {cut > 0 && <span className="font-semibold">{counted(cut, 'page')} cut, ready to put in</span>}
    </p>
  );
}
