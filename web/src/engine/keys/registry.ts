/** Commands: menu, help and keyboard read one list, so that a key is never shown that does nothing. */

export type Command = {
  name: string;
  label: string;
  /** A KeyboardEvent.key; letters in lower case; "Ctrl+" and "Shift+" before it where they are held (⌘ is Ctrl too). */
  key: string;
  /** How the key is written in the help, where it differs from the key itself. */
  shown?: string;
  enabled?: boolean;
  perform: () => void;
};

const TYPING = new Set(['INPUT', 'TEXTAREA', 'SELECT']);
/** Inputs in which nothing is typed; they have these keys for themselves. */
const HANDLED = new Set(['range', 'checkbox', 'radio']);
const OF_HANDLED = new Set(['Enter', ' ', 'Home', 'End', 'PageUp', 'PageDown']);
type Press = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey' | 'target'>;

/** The enabled command for a key press, if any; never while somebody types. */
export function commandFor(commands: readonly Command[], event: Press): Command | undefined {
  if (event.altKey) return undefined;
  const target = event.target as HTMLElement | null;
  const handled = target?.tagName === 'INPUT' && HANDLED.has((target as HTMLInputElement).type);
  if (target && !handled && (TYPING.has(target.tagName) || target.isContentEditable)) return undefined;
  if (handled && (event.key.startsWith('Arrow') || OF_HANDLED.has(event.key))) return undefined;
  const key = combination(event);
  if ((key === 'Enter' || key === ' ') && target && (target.tagName === 'BUTTON' || target.tagName === 'A'))
    return undefined;
  return commands.find((command) => command.key === key && command.enabled !== false);
}

function combination({ key, ctrlKey, metaKey, shiftKey }: Press): string {
  const plain = key.length === 1 ? key.toLowerCase() : key;
  // Shift is part of a sign such as "?", and only with letters and named keys a matter of its own.
  const shift = shiftKey && (key.length > 1 || plain !== key.toUpperCase());
  return `${ctrlKey || metaKey ? 'Ctrl+' : ''}${shift ? 'Shift+' : ''}${plain}`;
}

const SIGNS: Record<string, string> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Escape: 'Esc',
  Delete: 'Del',
  ' ': 'Space',
};

/** A command's key as it is written beside it. */
export function keyWords({ key, shown }: Pick<Command, 'key' | 'shown'>): string {
  if (shown) return shown;
  return key
    .split(/(?<=Ctrl\+|Shift\+)/)
    .map((part) => SIGNS[part] ?? (part.length === 1 ? part.toUpperCase() : part))
    .join('')
    .replace('Shift+', '⇧');
}
