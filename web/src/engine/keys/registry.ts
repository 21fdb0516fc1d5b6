/** Commands: buttons, key sheet, palette and keyboard read one list, so that a key is never shown that does nothing. */

/** Under which heading a command stands in the key sheet, in that order. */
export const SUBJECTS = [
  'Go to',
  'Step',
  'Choose',
  'Look',
  'Turn',
  'Move',
  'Hold',
  'Mark',
  'Order',
  'Tools',
  'Capture',
  'Changes',
] as const;
export type Subject = (typeof SUBJECTS)[number];

export type Command = {
  name: string;
  label: string;
  /**
   * A KeyboardEvent.key; letters in lower case; "Ctrl+" and "Shift+" before it where they are held (⌘ is Ctrl too).
   * Empty for what is found in the palette alone.
   */
  key: string;
  /** How the key is written, where it differs from the key itself. */
  shown?: string;
  subject: Subject;
  enabled?: boolean;
  /** Done again and again while the key is held; everything else is done once a press. */
  repeats?: boolean;
  /** Also while somebody types. */
  anywhere?: boolean;
  perform: () => void;
};

const TYPING = new Set(['INPUT', 'TEXTAREA', 'SELECT']);
/** Inputs in which nothing is typed. */
const NOT_TYPED = new Set(['range', 'checkbox', 'radio', 'file', 'button']);
const MOVES = new Set(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown']);
/** What is pressed by Enter and Space, and what has arrow keys of its own. */
const PRESSED =
  'button, a[href], summary, [role=button], [role=tab], [role=checkbox], [role=radio], [role=combobox], [role=switch]';
const MOVED = 'input, [role=slider], [role=radio], [role=tab], [role=combobox], [role=separator], [role=spinbutton]';
type Press = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey' | 'repeat' | 'target'>;

/** The enabled command for a key press, if any; what has the focus keeps the keys that it needs for itself. */
export function commandFor(commands: readonly Command[], event: Press): Command | undefined {
  if (event.altKey) return undefined;
  const key = combination(event);
  const found = commands.find((command) => command.key === key && command.enabled !== false);
  if (!found || (event.repeat && !found.repeats)) return undefined;
  const target = event.target as HTMLElement | null;
  if (!target?.matches) return found;
  if (isTyped(target)) return found.anywhere ? found : undefined;
  if (MOVES.has(event.key) && target.matches(MOVED)) return undefined;
  if ((key === 'Enter' || key === ' ') && target.matches(PRESSED)) return undefined;
  return found;
}

function isTyped(target: HTMLElement): boolean {
  if (target.isContentEditable) return true;
  return TYPING.has(target.tagName) && !NOT_TYPED.has((target as HTMLInputElement).type);
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

/** Keys that more than one enabled command would answer to. */
export function doubled(commands: readonly Command[]): string[] {
  const keys = commands.filter(({ enabled, key }) => enabled !== false && key).map(({ key }) => key);
  return [...new Set(keys.filter((key, at) => keys.indexOf(key) !== at))];
}

export type Entry = { label: string; keys: string[]; enabled: boolean };
export type Sheet = { subject: Subject; entries: Entry[] }[];

/** Commands for the key sheet: by subject, one line for all keys of a thing, and only those that hold what is looked for. */
export function sheetOf(commands: readonly Command[], looked = ''): Sheet {
  return SUBJECTS.flatMap((subject) => {
    const entries = new Map<string, Entry>();
    for (const command of commands) {
      if (command.subject !== subject || !command.key) continue;
      const entry = entries.get(command.label) ?? { label: command.label, keys: [], enabled: false };
      const key = keyWords(command);
      if (!entry.keys.includes(key)) entry.keys.push(key);
      entry.enabled ||= command.enabled !== false;
      entries.set(command.label, entry);
    }
    const found = [...entries.values()].filter((entry) =>
      holds(`${subject} ${entry.label} ${entry.keys.join(' ')}`, looked),
    );
    return found.length ? [{ subject, entries: found }] : [];
  });
}

/** Whether a text holds every word that is looked for, in any order. */
export function holds(text: string, looked: string): boolean {
  const inside = text.toLowerCase();
  return looked
    .toLowerCase()
    .split(/\s+/)
    .every((word) => inside.includes(word));
}
