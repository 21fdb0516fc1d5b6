import { type PointerEvent, useRef } from 'react';

type Point = readonly [x: number, y: number];
export type DragHands<Held> = {
  /** What is taken hold of; undefined takes hold of nothing. */
  onGrasp: (event: PointerEvent<Element>) => Held | undefined;
  /** The pointer moved on, from its last place to this one, in pixels of the window. */
  onDrag: (held: Held, event: PointerEvent<Element>, from: Point) => void;
  onRelease?: (held: Held, event: PointerEvent<Element>) => void;
  /** What was begun is not to be: the pointer was taken away. */
  onCancel?: (held: Held) => void;
};

/** One drag, by mouse, pen or finger, with the pointer held fast from its first moment to its last. */
export function useDrag<Held>(hands: DragHands<Held>) {
  const held = useRef<{ what: Held; pointer: number; last: Point }>(undefined);
  const end = (
    event: PointerEvent<Element>,
    done: ((held: Held, event: PointerEvent<Element>) => void) | undefined,
  ) => {
    const now = held.current;
    if (!now || now.pointer !== event.pointerId) return;
    held.current = undefined;
    done?.(now.what, event);
  };
  return {
    onPointerDown: (event: PointerEvent<Element>) => {
      if (event.button !== 0 || held.current) return;
      const what = hands.onGrasp(event);
      if (what === undefined) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { what, pointer: event.pointerId, last: [event.clientX, event.clientY] };
    },
    onPointerMove: (event: PointerEvent<Element>) => {
      const now = held.current;
      if (!now || now.pointer !== event.pointerId) return;
      const { last } = now;
      now.last = [event.clientX, event.clientY];
      hands.onDrag(now.what, event, last);
    },
    onPointerUp: (event: PointerEvent<Element>) => end(event, hands.onRelease),
    onPointerCancel: (event: PointerEvent<Element>) => end(event, hands.onCancel),
  };
}
