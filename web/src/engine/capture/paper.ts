/** A sheet as it lies in a source, seen from above, by whoever stands before it. */

import type { PaperPath, Station } from '@/api/types';
import type { Source } from './sentence';

/** One of a station's sources. */
export const sourceOf = (station: Station | undefined, source: Source['source']) =>
  source === 'platen' ? station?.platen : station?.feeder;

const EDGES = ['top', 'right', 'bottom', 'left'] as const;
/** In quarter turns clockwise from ahead, seen from above. */
const DIRECTIONS: Record<string, number> = { back: 0, right: 1, front: 2, left: 3 };

/** The edge of a page that lies in a direction. */
function edgeAt({ face, edge }: PaperPath, direction: number) {
  const clockwise = face === 'up' ? direction : 4 - direction;
  return EDGES[(EDGES.indexOf(edge) + clockwise) % 4];
}

/** Where paper of a size begins on a glass, in mm from the upper left of its picture: in the corner of the mark. */
export function onGlassAt(
  path: PaperPath | undefined,
  bed: { width_mm: number; height_mm: number },
  [width, height]: readonly [number, number],
): { x: number; y: number } {
  const edges = path ? path.place.split(' ').map((word) => edgeAt(path, DIRECTIONS[word] ?? 0)) : [];
  return {
    x: edges.includes('right') ? Math.max(0, bed.width_mm - width) : 0,
    y: edges.includes('bottom') ? Math.max(0, bed.height_mm - height) : 0,
  };
}

/** How far a page is turned, clockwise in degrees, so that its edge lies ahead; face down its left and right change places. */
export function turnOf({ face, edge }: Pick<PaperPath, 'face' | 'edge'>): number {
  const quarter = EDGES.indexOf(edge);
  return ((face === 'up' ? 4 - quarter : quarter) % 4) * 90;
}
