/** Where cells lie in the grid, without React: for drawing, for the keyboard, for dragging over them. */

export type Layout = 'pages' | 'leaves' | 'facing';
export type Size = 'small' | 'medium' | 'large';

export type Grid = {
  columns: number;
  width: number;
  height: number;
  /** Slots left empty before the first page: one where a first page stands alone on the right. */
  offset: number;
  /** Whether cells stand in twos, close together. */
  paired: boolean;
};

export const GAP = 12;
const JOINT = 2;
export const MARGIN = 16;
/** Room above the first row, so that its ring is seen whole. */
export const TOP = 12;
const CELLS: Record<Size, { least: number; height: number }> = {
  small: { least: 104, height: 164 },
  medium: { least: 156, height: 240 },
  large: { least: 300, height: 452 },
};

/** Cells share what is left of a row's width, in CSS pixels. */
export function gridFor(room: number, size: Size, layout: Layout, firstAlone: boolean): Grid {
  const { least, height } = CELLS[size];
  const paired = layout !== 'pages';
  const inside = room - 2 * MARGIN;
  const each = paired ? 2 * least + JOINT + GAP : least + GAP;
  const groups = Math.max(1, Math.floor((inside + GAP) / each));
  const share = (inside + GAP) / groups - GAP;
  const width = Math.max(40, Math.floor(paired ? (share - JOINT) / 2 : share));
  return {
    columns: paired ? groups * 2 : groups,
    width,
    height,
    offset: layout === 'facing' && firstAlone ? 1 : 0,
    paired,
  };
}

export type Place = { left: number; top: number };

export const rowOf = (grid: Grid, index: number) => Math.floor((index + grid.offset) / grid.columns);
export const rowCount = (grid: Grid, count: number) => Math.ceil((count + grid.offset) / grid.columns);
export const rowHeight = (grid: Grid) => grid.height + GAP;

export function placeOf(grid: Grid, index: number): Place {
  const column = (index + grid.offset) % grid.columns;
  return { left: leftOf(grid, column), top: rowOf(grid, index) * rowHeight(grid) };
}

function leftOf(grid: Grid, column: number): number {
  if (!grid.paired) return column * (grid.width + GAP);
  const pair = Math.floor(column / 2);
  return pair * (2 * grid.width + JOINT + GAP) + (column % 2) * (grid.width + JOINT);
}

export type Rect = { left: number; top: number; right: number; bottom: number };

/** Pages whose cells a rectangle touches. */
export function touched(grid: Grid, count: number, rect: Rect): number[] {
  const found: number[] = [];
  const first = Math.max(0, Math.floor(rect.top / rowHeight(grid)) * grid.columns - grid.offset);
  const last = Math.min(count, (Math.floor(rect.bottom / rowHeight(grid)) + 1) * grid.columns - grid.offset);
  for (let index = first; index < last; index++) {
    const { left, top } = placeOf(grid, index);
    const apart =
      left > rect.right || left + grid.width < rect.left || top > rect.bottom || top + grid.height < rect.top;
    if (!apart) found.push(index);
  }
  return found;
}

/** The gap between pages nearest to a point: 0 before the first, `count` behind the last. */
export function gapAt(grid: Grid, count: number, x: number, y: number): number {
  const row = Math.max(0, Math.min(rowCount(grid, count) - 1, Math.floor(y / rowHeight(grid))));
  const start = Math.max(0, row * grid.columns - grid.offset);
  const end = Math.min(count, (row + 1) * grid.columns - grid.offset);
  for (let index = start; index < end; index++) if (x < placeOf(grid, index).left + grid.width / 2) return index;
  return end;
}

/** Where the bar that shows a gap is drawn. */
export function gapPlace(grid: Grid, count: number, gap: number): Place {
  if (gap === 0) return { left: placeOf(grid, 0).left - GAP / 2, top: 0 };
  const before = placeOf(grid, Math.min(gap, count) - 1);
  return { left: before.left + grid.width + (grid.paired ? JOINT : GAP) / 2, top: before.top };
}
