import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { DraftDocument, ToDescribe } from '@/api/types';
import { cellOf, saidWith } from '@/engine/describing/table';
import { COLUMNS, type Column, STATEMENT_WORDS } from '@/words/describing';

export type TableProps = {
  documents: readonly ToDescribe[];
  /** The row in hand. */
  at: number;
  may: boolean;
  onAt: (row: number) => void;
  onSay: (said: Record<string, DraftDocument>) => void;
  onFill: (column: Column, far: 'next' | 'all', text: string) => void;
};

const ROW = 38;
/** Widths in rem, number and pages first. */
const WIDTHS: Record<Column, number> = {
  title: 17,
  date: 8,
  identifier: 9,
  creators: 12,
  subjects: 12,
  description: 20,
  type: 8,
  rights: 10,
  relations: 10,
  language: 7,
};
const GRID = `3.5rem 4.5rem ${COLUMNS.map((name) => `${WIDTHS[name]}rem`).join(' ')}`;

/** A row a document, a field a statement. Arrow keys up and down, and Enter, go from row to row; only rows in view are drawn. */
export function Table({ documents, at, may, onAt, onSay, onFill }: TableProps) {
  const scroll = useRef<HTMLDivElement>(null);
  const wanted = useRef<Column>(undefined);
  const rows = useVirtualizer({
    count: documents.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 6,
    scrollPaddingStart: ROW,
  });
  const go = (row: number, column: Column) => {
    const next = Math.max(0, Math.min(documents.length - 1, row));
    wanted.current = column;
    onAt(next);
    rows.scrollToIndex(next, { align: 'auto' });
  };
  // A row that was out of sight is drawn first.
  useEffect(() => {
    const column = wanted.current;
    if (!column) return;
    const field = scroll.current?.querySelector<HTMLInputElement>(`[data-cell="${at} ${column}"]`);
    if (!field) return;
    wanted.current = undefined;
    field.focus();
    field.select();
  });
  return (
    // biome-ignore lint/a11y/useSemanticElements: rows out of sight are not drawn, which a table cannot do
    <div
      ref={scroll}
      role="table"
      aria-label="Documents to come"
      aria-rowcount={documents.length + 1}
      className="min-h-0 flex-1 overflow-auto rounded-md border border-hairline bg-panel"
    >
      {/* biome-ignore lint/a11y/useSemanticElements: see above */}
      {/* biome-ignore lint/a11y/useFocusableInteractive: the fields in it have the keyboard */}
      <div
        role="row"
        aria-rowindex={1}
        className="sticky top-0 z-10 grid w-max min-w-full border-b border-hairline bg-panel text-small text-soft"
        style={{ gridTemplateColumns: GRID, height: ROW }}
      >
        <Head>Doc.</Head>
        <Head>Pages</Head>
        {COLUMNS.map((name) => (
          <Head key={name}>{STATEMENT_WORDS[name]}</Head>
        ))}
      </div>
      <div className="relative w-max min-w-full" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const one = documents[index];
          return (
            one && (
              // biome-ignore lint/a11y/useSemanticElements: see above
              // biome-ignore lint/a11y/useFocusableInteractive: the fields in it have the keyboard
              <div
                key={one.page}
                role="row"
                aria-rowindex={index + 2}
                aria-current={index === at}
                className={`absolute inset-x-0 grid border-b border-hairline ${index === at ? 'bg-accent-pale' : ''}`}
                style={{ gridTemplateColumns: GRID, top: start, height: ROW }}
              >
                <Figure>{one.number}</Figure>
                <Figure>{one.pages}</Figure>
                {COLUMNS.map((name) => (
                  <Cell
                    key={name}
                    id={`${index} ${name}`}
                    label={`${STATEMENT_WORDS[name]} of document ${one.number}`}
                    text={cellOf(one.said, name)}
                    otherwise={name === 'title' ? one.title : ''}
                    most={name === 'title' ? 200 : 2000}
                    may={may}
                    onFocus={() => onAt(index)}
                    onKeep={(text) => onSay({ [one.page]: saidWith(one.said, name, text) })}
                    onGo={(by) => go(index + by, name)}
                    onFill={(far, text) => onFill(name, far, text)}
                  />
                ))}
              </div>
            )
          );
        })}
      </div>
    </div>
  );
}

function Head({ children }: { children: string | undefined }) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: see above
    // biome-ignore lint/a11y/useFocusableInteractive: it does nothing
    <span role="columnheader" className="self-center truncate px-2.5">
      {children}
    </span>
  );
}

function Figure({ children }: { children: number }) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: see above
    <span role="cell" className="self-center px-2.5 text-right font-mono text-small text-soft">
      {children}
    </span>
  );
}

type CellProps = {
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
function Cell({ id, label, text, otherwise, most, may, onFocus, onKeep, onGo, onFill }: CellProps) {
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
