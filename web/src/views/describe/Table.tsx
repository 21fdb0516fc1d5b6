import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useRef } from 'react';
import type { Described, DraftDocument, ToDescribe } from '@/api/types';
import { cellOf, saidWith } from '@/engine/describing/table';
import { listed } from '@/words/binding';
import { COLUMNS, type Column, STATEMENT_WORDS } from '@/words/describing';
import { Cell } from './Cell';

export type TableProps = {
  documents: readonly ToDescribe[];
  /** What the stack is called, what is said of it, and what of that holds for each document. */
  stack: { name: string; described: Described; otherwise: Described };
  /** The row in hand; `OF_STACK` is that of the stack. */
  at: number;
  may: boolean;
  onAt: (row: number) => void;
  onSay: (said: Record<string, DraftDocument>) => void;
  onSayOfStack: (described: Described) => void;
  onFill: (column: Column, far: 'next' | 'all', text: string) => void;
};

/** The row of the stack: it stands above the first document. */
export const OF_STACK = -1;
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

/**
 * A row a document, a field a statement; above them the stack, whose statements hold for documents that make none.
 * Arrow keys up and down, and Enter, go from row to row; only rows in view are drawn.
 */
export function Table({ documents, stack, at, may, onAt, onSay, onSayOfStack, onFill }: TableProps) {
  const scroll = useRef<HTMLDivElement>(null);
  const wanted = useRef<Column>(undefined);
  const ofStack = { title: '', described: stack.described };
  const rows = useVirtualizer({
    count: documents.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 6,
    scrollPaddingStart: 2 * ROW,
  });
  const go = (row: number, column: Column) => {
    const next = Math.max(OF_STACK, Math.min(documents.length - 1, row));
    wanted.current = column;
    onAt(next);
    if (next >= 0) rows.scrollToIndex(next, { align: 'auto' });
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
      aria-rowcount={documents.length + 2}
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
      <Row
        index={2}
        current={at === OF_STACK}
        className={`sticky z-10 w-max min-w-full border-b-2 ${at === OF_STACK ? '' : 'bg-panel'}`}
        top={ROW}
        number="all"
        pages={documents.reduce((sum, { pages }) => sum + pages, 0)}
        cell={(name) => (
          <Cell
            key={name}
            id={`${OF_STACK} ${name}`}
            label={`${STATEMENT_WORDS[name]} of the stack`}
            text={name === 'title' ? stack.name : cellOf(ofStack, name)}
            otherwise=""
            most={2000}
            may={may && name !== 'title'}
            onFocus={() => onAt(OF_STACK)}
            onKeep={(text) => onSayOfStack(saidWith(ofStack, name, text).described)}
            onGo={(by) => go(OF_STACK + by, name)}
            onFill={() => undefined}
          />
        )}
      />
      <div className="relative w-max min-w-full" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const one = documents[index];
          return (
            one && (
              <Row
                key={one.page}
                index={index + 3}
                current={index === at}
                className="absolute inset-x-0 border-b"
                top={start}
                number={one.number}
                pages={one.pages}
                cell={(name) => (
                  <Cell
                    key={name}
                    id={`${index} ${name}`}
                    label={`${STATEMENT_WORDS[name]} of document ${one.number}`}
                    text={cellOf(one.said, name)}
                    otherwise={name === 'title' ? one.title : listed(stack.otherwise[name])}
                    most={name === 'title' ? 200 : 2000}
                    may={may}
                    onFocus={() => onAt(index)}
                    onKeep={(text) => onSay({ [one.page]: saidWith(one.said, name, text) })}
                    onGo={(by) => go(index + by, name)}
                    onFill={(far, text) => onFill(name, far, text)}
                  />
                )}
              />
            )
          );
        })}
      </div>
    </div>
  );
}

type RowProps = {
  /** Its place among all rows, from 1. */
  index: number;
  current: boolean;
  className: string;
  top: number;
  number: ReactNode;
  pages: number;
  cell: (column: Column) => ReactNode;
};

function Row({ index, current, className, top, number, pages, cell }: RowProps) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: see above
    // biome-ignore lint/a11y/useFocusableInteractive: the fields in it have the keyboard
    <div
      role="row"
      aria-rowindex={index}
      aria-current={current}
      className={`grid border-hairline ${className} ${current ? 'bg-accent-pale' : ''}`}
      style={{ gridTemplateColumns: GRID, top, height: ROW }}
    >
      <Figure>{number}</Figure>
      <Figure>{pages}</Figure>
      {COLUMNS.map(cell)}
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

function Figure({ children }: { children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: see above
    <span role="cell" className="self-center px-2.5 text-right font-mono text-small text-soft">
      {children}
    </span>
  );
}
