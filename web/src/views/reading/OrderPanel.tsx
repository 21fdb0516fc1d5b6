import { useEffect, useRef, useState } from 'react';
import type { PageText } from '@/api/types';
import { Button } from '@/ui/Button';
import { Key } from '@/ui/Key';

export type OrderPanelProps = {
  text: PageText;
  /** Blocks by their places in the reading, in the order in hand. */
  onShown: (order: readonly number[]) => void;
  onApply: (order: readonly number[]) => void;
  onClose: () => void;
};

/** The blocks of a page in the order in which they are read, to be put into another one. */
export function OrderPanel({ text, onShown, onApply, onClose }: OrderPanelProps) {
  const [order, setOrder] = useState<readonly number[]>(() => text.blocks.map((_, at) => at));
  const [at, setAt] = useState(0);
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => onShown(order), [order, onShown]);
  useEffect(() => list.current?.focus(), []);
  const move = (by: number) => {
    const to = at + by;
    if (to < 0 || to >= order.length) return;
    const next = [...order];
    const [taken] = next.splice(at, 1);
    if (taken !== undefined) next.splice(to, 0, taken);
    setOrder(next);
    setAt(to);
  };
  const onKey = (event: React.KeyboardEvent) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (event.key === 'Enter') onApply(order);
    else if (event.key === 'Escape') onClose();
    else if (by === undefined) return;
    else if (event.shiftKey) move(by);
    else setAt(Math.max(0, Math.min(order.length - 1, at + by)));
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <section aria-label="Order of the text" className="flex min-h-0 flex-col gap-3">
      <p className="text-small text-soft">
        The blocks as they are read. Choose one with <Key of="ArrowUp" /> <Key of="ArrowDown" />, move it with{' '}
        <Key of="Shift+ArrowUp" /> <Key of="Shift+ArrowDown" />.
      </p>
      <div
        ref={list}
        tabIndex={0}
        role="listbox"
        aria-label="Blocks"
        aria-activedescendant={`block-${order[at]}`}
        onKeyDown={onKey}
        className="min-h-0 overflow-y-auto border border-hairline bg-panel"
      >
        {order.map((block, place) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the list has the keys
          <div
            key={block}
            id={`block-${block}`}
            role="option"
            tabIndex={-1}
            aria-selected={place === at}
            onClick={() => setAt(place)}
            className={`flex gap-3 border-b border-hairline px-3 py-1.5 last:border-b-0 ${place === at ? 'bg-accent-pale' : ''}`}
          >
            <span className="w-6 shrink-0 text-right font-mono">{place + 1}</span>
            <span className="truncate">{firstWords(text, block)}</span>
          </div>
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button kind="main" onClick={() => onApply(order)} disabled={order.every((block, place) => block === place)}>
          Read in this order <Key of="Enter" shown="↵" />
        </Button>
        <Button onClick={() => move(-1)} disabled={at === 0}>
          Earlier
        </Button>
        <Button onClick={() => move(1)} disabled={at === order.length - 1}>
          Later
        </Button>
        <Button kind="quiet" onClick={onClose} shortcut="Escape">
          Leave it as it is
        </Button>
      </div>
    </section>
  );
}

function firstWords(text: PageText, block: number): string {
  const words = text.lines
    .filter((line) => line.block === block)
    .flatMap((line) => line.words.map((word) => word.text));
  return words.length ? words.slice(0, 9).join(' ') : KINDS[text.blocks[block]?.kind ?? 'text'];
}

const KINDS = { text: 'nothing', table: 'a table', picture: 'a picture', 'not read': 'left out' };
