import { type RefObject, useEffect } from 'react';
import { commandFor } from '@/engine/keys/registry';
import { allCommands } from './useCommands';

/** Whoever types means the word in hand: its field takes the letter, in place of what was read. */
export function useTyping(field: RefObject<HTMLInputElement | null>, on: boolean) {
  useEffect(() => {
    if (!on) return;
    const type = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.key.length !== 1 || event.key === ' ') return;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if ((event.target as HTMLElement).closest?.('input, textarea, [role=dialog], [role=menu], [contenteditable]'))
        return;
      if (commandFor(allCommands(), event)) return;
      field.current?.focus();
      field.current?.select();
    };
    window.addEventListener('keydown', type, { capture: true });
    return () => window.removeEventListener('keydown', type, { capture: true });
  }, [field, on]);
}
