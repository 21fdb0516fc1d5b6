import type { RefObject } from 'react';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { counted } from '@/words/figures';

export type FindBarProps = {
  field: RefObject<HTMLInputElement | null>;
  words: string;
  onWords: (words: string) => void;
  /** Pages that hold them; undefined while nobody knows. */
  pages: number | undefined;
  unsure: number;
  /** Which place on the page is in hand, from 1, and how many there are; 0 for none. */
  place: readonly [number, number];
  problem: string;
  onStep: (by: number) => void;
  onClose: () => void;
};

/** Finding words in the stack: typed, counted, gone through from hit to hit. */
export function FindBar({ field, words, onWords, pages, unsure, place, problem, onStep, onClose }: FindBarProps) {
  return (
    <search className="flex items-center gap-2 border-b border-hairline bg-panel px-6 py-2">
      <label htmlFor="find" className="shrink-0 text-small text-soft">
        Find in the stack
      </label>
      <input
        ref={field}
        id="find"
        value={words}
        onChange={(event) => onWords(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            event.preventDefault();
            onStep(event.shiftKey ? -1 : 1);
          } else if (event.key === 'Escape') {
            event.preventDefault();
            onClose();
          }
        }}
        spellCheck={false}
        autoComplete="off"
        className={`${INPUT} w-36 shrink-0`}
      />
      <Button size="small" disabled={!pages} onClick={() => onStep(-1)} aria-keyshortcuts="Shift+Enter">
        Previous
      </Button>
      <Button size="small" disabled={!pages} onClick={() => onStep(1)} aria-keyshortcuts="Enter">
        Next
      </Button>
      <output className="min-w-0 flex-1 truncate text-small text-soft">
        {problem ||
          (words.trim() === '' || pages === undefined
            ? ''
            : pages === 0
              ? 'No page holds that.'
              : `${counted(pages, 'page')}${unsure ? `, ${unsure} of them perhaps` : ''}${place[0] ? ` · ${place[0]} of ${place[1]} here` : ''}`)}
      </output>
      <Button size="small" kind="quiet" onClick={onClose}>
        Close
      </Button>
    </search>
  );
}
