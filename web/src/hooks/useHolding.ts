import { useCallback, useEffect, useRef } from 'react';

/** Asks whether somebody holds something down just now: a button of the mouse, a finger, a key. */
export function useHolding(): () => boolean {
  const held = useRef(new Set<string>());
  useEffect(() => {
    const { current: down } = held;
    const press = (event: Event) => down.add(nameOf(event));
    const release = (event: Event) => {
      down.delete(nameOf(event));
      // Some systems do not tell of a key that is let go while this one is down.
      if (event instanceof KeyboardEvent && event.key === 'Meta') down.clear();
    };
    // Of what is let go elsewhere nothing is heard.
    const away = () => down.clear();
    for (const kind of PRESSED) window.addEventListener(kind, press, true);
    for (const kind of RELEASED) window.addEventListener(kind, release, true);
    window.addEventListener('blur', away);
    return () => {
      for (const kind of PRESSED) window.removeEventListener(kind, press, true);
      for (const kind of RELEASED) window.removeEventListener(kind, release, true);
      window.removeEventListener('blur', away);
    };
  }, []);
  return useCallback(() => held.current.size > 0, []);
}

const PRESSED = ['pointerdown', 'keydown'];
const RELEASED = ['pointerup', 'pointercancel', 'keyup'];

const nameOf = (event: Event): string =>
  event instanceof KeyboardEvent ? event.code : `pointer ${(event as PointerEvent).pointerId}`;
