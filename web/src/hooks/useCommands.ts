import { useEffect, useRef } from 'react';
import type { Command } from '@/engine/keys/registry';

/** The commands of every view that is open, the innermost last. */
const open = new Set<{ current: readonly Command[] }>();

/** All commands there are now; where two share a key, the innermost view's comes first. */
export function allCommands(): Command[] {
  return [...open].reverse().flatMap((view) => view.current);
}

/** Offer commands while a view is open. Keys and help are the business of KeyHelp, once for the whole application. */
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
