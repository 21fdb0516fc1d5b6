import { type PointerEvent, type RefObject, useEffect, useRef, useState } from 'react';
import { bandOf, type Event, gapOf, type Handling, handling, IDLE, type Point } from '@/engine/grid/hands';
import { type Grid, MARGIN, TOP } from '@/engine/grid/layout';
import type { Happening, Selection } from '@/engine/selection/selection';

export type GridHands = {
  frame: RefObject<HTMLDivElement | null>;
  grid: Grid;
  shown: readonly number[];
  selection: Selection;
  onChoose: (happening: Happening) => void;
  onMove: (gap: number) => void;
};

const EDGE = 48;

/** The mouse and the pen in the grid; fingers scroll it, and choose with a tap. */
export function useGridHands({ frame, grid, shown, selection, onChoose, onMove }: GridHands) {
  const state = useRef<Handling>(IDLE);
  const [drawn, draw] = useState<Handling>(IDLE);
  const pointer = useRef<{ clientX: number; clientY: number }>(undefined);
  const world = { grid, shown, selection };

  const inList = (event: { clientX: number; clientY: number }): Point => {
    const element = frame.current;
    if (!element) return { x: 0, y: 0 };
    const { left, top } = element.getBoundingClientRect();
    return { x: event.clientX - left - MARGIN, y: event.clientY - top + element.scrollTop - TOP };
  };
  const happen = (event: Event) => {
    const [after, outcomes] = handling(state.current, event, world);
    state.current = after;
    for (const one of outcomes) {
      if (one.do === 'choose') onChoose(one.happening);
      else onMove(one.gap);
    }
    draw(after);
  };

  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0 || isScrollbar(event)) return;
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-page]');
    const id = cell ? Number(cell.dataset.page) : undefined;
    const many = event.ctrlKey || event.metaKey;
    if (event.pointerType === 'touch') {
      // A finger that moves scrolls; the press that would begin a drag is ended at once.
      if (id !== undefined) {
        happen({ kind: 'press', at: inList(event), id, shift: false, many: false });
        happen({ kind: 'release' });
      }
      return;
    }
    if (id === undefined) event.preventDefault();
    else cell?.focus({ preventScroll: true });
    happen({ kind: 'press', at: inList(event), id, shift: event.shiftKey, many });
  };
  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    if (!state.current.press) return;
    pointer.current = { clientX: event.clientX, clientY: event.clientY };
    const before = state.current.doing;
    happen({ kind: 'move', at: inList(event) });
    if (before === 'nothing' && state.current.doing !== 'nothing')
      event.currentTarget.setPointerCapture(event.pointerId);
  };

  // Near an edge the list scrolls on, and what is being done goes on with it.
  const working = drawn.doing !== 'nothing';
  const latest = useRef<() => void>(() => undefined);
  useEffect(() => {
    latest.current = () => {
      if (pointer.current) happen({ kind: 'move', at: inList(pointer.current) });
    };
  });
  useEffect(() => {
    if (!working) return;
    let frameId = 0;
    const tick = () => {
      const element = frame.current;
      if (element && pointer.current) {
        const { top, bottom } = element.getBoundingClientRect();
        const { clientY } = pointer.current;
        const by = clientY < top + EDGE ? clientY - top - EDGE : clientY > bottom - EDGE ? clientY - bottom + EDGE : 0;
        if (by !== 0) {
          element.scrollTop += by / 3;
          latest.current();
        }
      }
      frameId = requestAnimationFrame(tick);
    };
    frameId = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frameId);
  }, [working, frame]);

  return {
    band: bandOf(drawn),
    gap: drawn.doing === 'move' ? gapOf(drawn.to, world) : undefined,
    handlers: {
      onPointerDown,
      onPointerMove,
      onPointerUp: () => happen({ kind: 'release' }),
      onPointerCancel: () => happen({ kind: 'cancel' }),
    },
  };
}

function isScrollbar(event: PointerEvent<HTMLElement>): boolean {
  const { currentTarget: element, clientX } = event;
  return clientX > element.getBoundingClientRect().left + element.clientWidth;
}
