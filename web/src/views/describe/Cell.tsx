import { type KeyboardEvent, useState } from 'react';

export type CellProps = {
  id: string;
  label: string;
  text: string;
  /** What it is where nobody has said it. */
  otherwise: string;
  most: number;
  may: boolean;
  onFocus: () => void;
  onKeep: (text: string) => void;
  /** So many rows on. */
  onGo: (by: number) => void;
  onFill: (far: 'next' | 'all', text: string) => void;
};

const STEPS: Record<string, number> = { Enter: 1, ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 };

/** A field whose text is kept when it is left. Escape takes back what was typed; filling down keeps it, too. */
export function Cell({ id, label, text, otherwise, most, may, onFocus, onKeep, onGo, onFill }: CellProps) {
  const [typed, setTyped] = useState<string>();
  const keep = () => {
    if (typed !== undefined && typed.trim() !== text) onKeep(typed);
    setTyped(undefined);
  };
  const onKey = (event: KeyboardEvent<HTMLInputElement>) => {
    const by = STEPS[event.key];
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'd') {
      event.preventDefault();
      setTyped(undefined);
      if (may) onFill(event.shiftKey ? 'all' : 'next', typed ?? text);
    } else if (by && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault();
      keep();
      onGo(event.shiftKey ? -by : by);
    } else if (event.key === 'Escape' && typed !== undefined) {
      event.stopPropagation();
      const field = event.currentTarget;
      setTyped(undefined);
      requestAnimationFrame(() => field.select()); // what is typed next takes its place
    }
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: see above
    <span role="cell" className="border-l border-hairline">
      <input
        data-cell={id}
        aria-label={label}
        value={typed ?? text}
        placeholder={otherwise}
        maxLength={most}
        readOnly={!may}
        spellCheck={false}
        autoComplete="off"
        onFocus={onFocus}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={keep}
        onKeyDown={onKey}
        className="size-full bg-transparent px-2.5 text-ink -outline-offset-2 placeholder:text-soft"
      />
    </span>
  );
}
