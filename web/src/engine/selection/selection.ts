/**
 * Which pages are chosen. One of them is current: keys start from it, and it is shown beside the grid. Only pages that can be
 * seen are ever chosen, so that no key acts on what a filter hides.
 */

export type Selection = {
  ids: ReadonlySet<number>;
  current: number | undefined;
  /** Where a run began that Shift extends. */
  anchor: number | undefined;
};

export const NOTHING: Selection = { ids: new Set(), current: undefined, anchor: undefined };

/** What can be chosen: the pages that a filter lets through, and every page of the stack around them, each in order. */
export type Seen = { shown: readonly number[]; all: readonly number[] };

export type Happening =
  /** Pages came, went or moved, or the filter is another one; `before` is the order until now. */
  | { kind: 'seen'; before: readonly number[] }
  | { kind: 'only'; id: number }
  | { kind: 'toggle'; id: number }
  /** The run from where it began to a page. */
  | { kind: 'extend'; id: number }
  | { kind: 'these'; ids: readonly number[]; current?: number | undefined }
  | { kind: 'all' }
  | { kind: 'step'; by: number; how: 'alone' | 'run' | 'walk' };

export function selecting(now: Selection, happened: Happening, seen: Seen): Selection {
  switch (happened.kind) {
    case 'seen':
      return kept(now, seen, happened.before);
    case 'only':
      return only(happened.id);
    case 'toggle':
      return toggled(now, happened.id);
    case 'extend':
      return extended(now, seen.shown, happened.id);
    case 'these':
      return these(happened.ids, happened.current);
    case 'all':
      return seen.shown.length ? these(seen.shown, now.current) : now;
    case 'step': {
      const id = stepped(now.current, seen, happened.by);
      if (id === undefined) return now;
      if (happened.how === 'run') return extended(now, seen.shown, id);
      return happened.how === 'walk' ? { ...now, current: id } : only(id);
    }
  }
}

const only = (id: number): Selection => ({ ids: new Set([id]), current: id, anchor: id });

/** Add a page, or take it out; the last one stays. */
function toggled(selection: Selection, id: number): Selection {
  const ids = new Set(selection.ids);
  if (ids.has(id) && ids.size > 1) ids.delete(id);
  else ids.add(id);
  return { ids, current: id, anchor: id };
}

function extended(selection: Selection, order: readonly number[], id: number): Selection {
  const anchor = selection.anchor ?? selection.current ?? id;
  const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b);
  if (from === undefined || to === undefined || from < 0) return only(id);
  return { ids: new Set(order.slice(from, to + 1)), current: id, anchor };
}

function these(ids: readonly number[], current?: number): Selection {
  const first = current !== undefined && ids.includes(current) ? current : ids[0];
  return { ids: new Set(ids), current: first, anchor: first };
}

/** The page so many away among those that are shown, from one that may not be shown any more. */
function stepped(current: number | undefined, { shown, all }: Seen, by: number): number | undefined {
  if (shown.length === 0) return undefined;
  const within = (at: number) => shown[Math.max(0, Math.min(shown.length - 1, at))];
  if (current === undefined) return within(by < 0 ? shown.length - 1 : 0);
  const at = shown.indexOf(current);
  if (at >= 0) return within(at + by);
  const place = new Map(all.map((id, index) => [id, index]));
  const here = place.get(current) ?? -1;
  const behind = shown.findIndex((id) => (place.get(id) ?? 0) > here);
  const next = behind < 0 ? shown.length : behind;
  return within(by > 0 ? next + by - 1 : next + by);
}

/** What is left of it: the same pages as far as they are seen, or the one nearest to where the current one was. */
function kept(now: Selection, { shown }: Seen, before: readonly number[]): Selection {
  const there = new Set(shown);
  const ids = [...now.ids].filter((id) => there.has(id));
  const { current } = now;
  if (current !== undefined && there.has(current)) {
    if (ids.length === now.ids.size && ids.length > 0) return now;
    return ids.length ? { ...now, ids: new Set(ids) } : only(current);
  }
  if (ids.length) return these(ids);
  if (shown.length === 0) return NOTHING;
  const at = current === undefined ? 0 : Math.max(0, before.indexOf(current));
  const rest = before.slice(at).find((id) => there.has(id));
  const next = rest ?? shown[Math.min(at, shown.length - 1)];
  return next === undefined ? NOTHING : only(next);
}

/**
 * The page behind which dragged ones go when they are let go in a gap among those shown; null is the front of the stack. The gap
 * before a page is behind the one that precedes it in the whole stack, whether that one is shown or not.
 */
export function afterGap({ shown, all }: Seen, gap: number, dragged: ReadonlySet<number>): number | null {
  if (gap >= shown.length) return shown.at(-1) ?? null;
  if (gap > 0) return shown[gap - 1] ?? null;
  const first = all.indexOf(shown[0] ?? -1);
  for (let at = first - 1; at >= 0; at--) {
    const id = all[at];
    if (id !== undefined && !dragged.has(id)) return id;
  }
  return null;
}
