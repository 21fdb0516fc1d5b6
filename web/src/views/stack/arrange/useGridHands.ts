import { type PointerEvent, type RefObject, useEffect, useRef, useState } from 'react';
import type { PageRow } from '@/api/types';
import { type Grid, gapAt, MARGIN, type Rect, touched } from '@/engine/grid/layout';
import { extended, only, type Selection, these, toggled } from '@/engine/selection/selection';

export type GridHands = {
  frame: RefObject<HTMLDivElement | null>;
  grid: Grid;
  pages: readonly PageRow[];
  selection: Selection;
  onSelect: (selection: Selection) => void;
  onMove: (ids: number[], after: number | null) => void;
};

type Press = { x: number; y: number; id: number | undefined; settled: boolean; base: Selection };
/** In pixels of the list, whatever is scrolled. */
type Point = { x: number; y: number };

const SLACK = 5;
const EDGE = 48;

/** The mouse in the grid: choosing, a rectangle drawn over empty ground, and pages dragged to another place. */
export function useGridHands({ frame, grid, pages, selection, onSelect, onMove }: GridHands) {
  const press = useRef<Press>(undefined);
  const pointer = useRef<{ clientX: number; clientY: number }>(undefined);
  const [band, setBand] = useState<Rect>();
  const [gap, setGap] = useState<number>();
  const working = band !== undefined || gap !== undefined;

  const inList = (event: { clientX: number; clientY: number }): Point => {
    const element = frame.current;
    if (!element) return { x: 0, y: 0 };
    const { left, top } = element.getBoundingClientRect();
    return { x: event.clientX - left - MARGIN, y: event.clientY - top + element.scrollTop };
  };
  const order = () => pages.map(({ id }) => id);

  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0 || isScrollbar(event)) return;
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-page]');
    const id = cell ? Number(cell.dataset.page) : undefined;
    const many = event.ctrlKey || event.metaKey;
    let settled = true;
    if (id === undefined) event.preventDefault();
    else if (event.shiftKey) onSelect(extended(selection, order(), id));
    else if (many) onSelect(toggled(selection, id));
    else if (!selection.ids.has(id)) onSelect(only(id));
    else settled = false; // one of several: they may be about to be dragged together
    const base = many ? selection : { ...selection, ids: new Set<number>() };
    press.current = { ...inList(event), id, settled, base };
  };

  const follow = () => {
    const from = press.current;
    if (!from || !pointer.current) return;
    const to = inList(pointer.current);
    if (from.id !== undefined) return setGap(gapAt(grid, pages.length, to.x, to.y));
    const rect = {
      left: Math.min(from.x, to.x),
      right: Math.max(from.x, to.x),
      top: Math.min(from.y, to.y),
      bottom: Math.max(from.y, to.y),
    };
    setBand(rect);
    const hit = touched(grid, pages.length, rect).flatMap((index) => pages[index]?.id ?? []);
    const all = [...new Set([...from.base.ids, ...hit])];
    if (all.length > 0) onSelect(these(all, hit.at(-1) ?? from.base.current));
  };

  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    const from = press.current;
    if (!from) return;
    pointer.current = { clientX: event.clientX, clientY: event.clientY };
    const to = inList(event);
    if (!working && Math.hypot(to.x - from.x, to.y - from.y) < SLACK) return;
    if (!working) event.currentTarget.setPointerCapture(event.pointerId);
    follow();
  };

  const onPointerUp = () => {
    const from = press.current;
    press.current = undefined;
    if (!from) return;
    if (gap !== undefined) {
      const ids = pages.filter(({ id }) => selection.ids.has(id)).map(({ id }) => id);
      const after = gap === 0 ? null : (pages[gap - 1]?.id ?? null);
      if (ids.length) onMove(ids, after);
    } else if (from.id !== undefined && !from.settled) onSelect(only(from.id));
    stop();
  };

  const stop = () => {
    press.current = undefined;
    setBand(undefined);
    setGap(undefined);
  };

  // Near an edge the list scrolls on, and what is being done goes on with it.
  const latest = useRef(follow);
  useEffect(() => {
    latest.current = follow;
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

  return { band, gap, stop, handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: stop } };
}

function isScrollbar(event: PointerEvent<HTMLElement>): boolean {
  const { currentTarget: element, clientX } = event;
  return clientX > element.getBoundingClientRect().left + element.clientWidth;
}
