import { useEffect, useRef } from 'react';
import type { Command } from '@/engine/keys/registry';

/** The commands of every view that is open, the innermost last. */
const open = new Set<{ current: readonly Command[] }>();

/** All commands there are now. */
export function allCommands(): Command[] {
  return [...open].reverse().flatMap((view) => view.current);
}

/** Offer commands while a view is open. Keys, key sheet and palette are the business of Keyboard, once for the whole application. */
export function useCommands(commands: readonly Command[]): void {
  const latest = useRef(commands);
  useEffect(() => {
    latest.current = commands;
  });
  useEffect(() => {
    open.add(latest);
    return () => {
      open.delete(latest);
    };
  }, []);
}
