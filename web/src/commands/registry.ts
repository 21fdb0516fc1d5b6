/** Commands: menu, help and keyboard read one list, so that a key is never shown that does nothing. */

export type Command = {
  name: string;
  label: string;
  /** A KeyboardEvent.key; letters in lower case. */
  key: string;
  /** How the key is written in the help, where it differs from the key itself. */
  shown?: string;
  enabled?: boolean;
  perform: () => void;
};

const TYPING = new Set(['INPUT', 'TEXTAREA', 'SELECT']);

/** The enabled command for a key press, if any; never while somebody types or holds a modifier. */
export function commandFor(
  commands: readonly Command[],
  event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'target'>,
): Command | undefined {
  if (event.ctrlKey || event.metaKey || event.altKey) return undefined;
  const target = event.target as HTMLElement | null;
  if (target && (TYPING.has(target.tagName) || target.isContentEditable)) return undefined;
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  if ((key === 'Enter' || key === ' ') && target && (target.tagName === 'BUTTON' || target.tagName === 'A'))
    return undefined;
  return commands.find((command) => command.key === key && command.enabled !== false);
}
