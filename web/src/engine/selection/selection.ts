/** Which pages are chosen. One of them is current: keys start from it, and it is shown beside the grid. */

export type Selection = {
  ids: ReadonlySet<number>;
  current: number | undefined;
  /** Where a run began that Shift extends. */
  anchor: number | undefined;
};

export const NOTHING: Selection = { ids: new Set(), current: undefined, anchor: undefined };

export const only = (id: number): Selection => ({ ids: new Set([id]), current: id, anchor: id });

/** Add a page, or take it out; the last one stays. */
export function toggled(selection: Selection, id: number): Selection {
  const ids = new Set(selection.ids);
  if (ids.has(id) && ids.size > 1) ids.delete(id);
  else ids.add(id);
  const current = ids.has(id) ? id : ([...ids].at(-1) ?? id);
  return { ids, current, anchor: id };
}

/** The run from where it began to a page. */
export function extended(selection: Selection, order: readonly number[], id: number): Selection {
  const anchor = selection.anchor ?? selection.current ?? id;
  const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b);
  if (from === undefined || to === undefined || from < 0) return only(id);
  return { ids: new Set(order.slice(from, to + 1)), current: id, anchor };
}

export function these(ids: readonly number[], current?: number): Selection {
  const first = current ?? ids[0];
  return { ids: new Set(ids), current: first, anchor: first };
}

/** What is left of it when pages come and go: the same pages, or the one nearest to where the current one was. */
export function kept(selection: Selection, order: readonly number[], before: readonly number[]): Selection {
  if (selection.current === undefined) return selection;
  const there = new Set(order);
  const ids = [...selection.ids].filter((id) => there.has(id));
  if (there.has(selection.current))
    return ids.length === selection.ids.size ? selection : these(ids, selection.current);
  const at = Math.max(0, before.indexOf(selection.current));
  const next = ids[0] ?? order[Math.min(at, order.length - 1)];
  return next === undefined ? NOTHING : ids.length ? these(ids) : only(next);
}
