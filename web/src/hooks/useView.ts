import { useEffect, useRef } from 'react';

/** A view that has just been opened: its title is the window's, and the keyboard starts in it. */
export function useView<T extends HTMLElement>(title: string | undefined) {
  const main = useRef<T>(null);
  useEffect(() => {
    document.title = title ? `${title} · Hollow Stack` : 'Hollow Stack';
  }, [title]);
  useEffect(() => {
    // A field that asks for the keyboard has it; everything else was lost with the view before.
    if (document.activeElement === document.body || !document.activeElement)
      main.current?.focus({ preventScroll: true });
  }, []);
  return main;
}
