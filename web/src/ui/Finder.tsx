import { type KeyboardEvent, type ReactNode, useId, useLayoutEffect, useRef, useState } from 'react';
import { holds } from '@/engine/keys/registry';
import { INPUT } from './Field';

export type Found = { id: string; text: string; shown?: ReactNode };
export type FinderProps = {
  label: string;
  items: readonly Found[];
  /** The one that stands first in hand. */
  chosen?: string | undefined;
  /** What stands in the field at first. */
  typed?: string;
  onChoose: (id: string) => void;
};

/** So many are shown: whoever looks for one among thousands types a word of it. */
const SHOWN = 60;

/** A field and the list of what holds its words: arrow keys go through it, Enter chooses. */
export function Finder({ label, items, chosen, typed = '', onChoose }: FinderProps) {
  const id = useId();
  const list = useRef<HTMLDivElement>(null);
  const [looked, setLooked] = useState(typed);
  const found = items.filter(({ text }) => holds(text, looked));
  const start = looked
    ? 0
    : Math.max(0, Math.min(found.findIndex((item) => item.id === chosen) - 3, found.length - SHOWN));
  const shown = found.slice(start, start + SHOWN);
  const [hand, setHand] = useState<string | undefined>(chosen);
  const at = Math.max(
    0,
    shown.findIndex((item) => item.id === hand),
  );
  const current = shown[at];
  useLayoutEffect(() => {
    list.current?.querySelector(`[id="${CSS.escape(`${id}${current?.id}`)}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [id, current?.id]);
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (step) {
      event.preventDefault();
      setHand(shown[Math.max(0, Math.min(shown.length - 1, at + step))]?.id);
    }
    if (event.key === 'Enter' && current) {
      event.preventDefault();
      onChoose(current.id);
    }
  };
  return (
    <div className="flex min-h-0 flex-col gap-2">
      <input
        role="combobox"
        aria-label={label}
        aria-expanded="true"
        aria-controls={id}
        aria-activedescendant={current ? `${id}${current.id}` : undefined}
        aria-autocomplete="list"
        // biome-ignore lint/a11y/noAutofocus: it is opened to be typed in
        autoFocus
        value={looked}
        placeholder={label}
        onChange={({ target }) => {
          setLooked(target.value);
          setHand(undefined);
        }}
        onKeyDown={onKey}
        className={`${INPUT} min-h-11 shrink-0 px-3`}
      />
      <div ref={list} id={id} role="listbox" aria-label={label} className="max-h-[50vh] min-h-0 overflow-y-auto">
        {shown.map((item) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the field has the keys
          <div
            key={item.id}
            id={`${id}${item.id}`}
            role="option"
            tabIndex={-1}
            aria-selected={item === current}
            onClick={() => onChoose(item.id)}
            onPointerMove={() => setHand(item.id)}
            className={`flex min-h-9 cursor-default items-center gap-3 rounded-sm px-3 ${item === current ? 'bg-accent text-on-accent' : ''}`}
          >
            {item.shown ?? item.text}
          </div>
        ))}
      </div>
      <p role="status" className="shrink-0 px-3 text-small text-soft">
        {found.length === 0
          ? `Nothing holds “${looked}”.`
          : shown.length < found.length
            ? `${found.length - shown.length} more: type a word of it.`
            : ''}
      </p>
    </div>
  );
}
