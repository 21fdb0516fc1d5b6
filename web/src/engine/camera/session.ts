/** The frames of one camera, one after the other: what is said of each, and when the page in it is to be taken. */

import type { Quad } from '@/engine/geometry/projective';
import type { Point } from '@/engine/geometry/turned';
import { LONGEST_PX } from './outline';
import { grayOf, planesOf } from './plane';
import { type Said, signatureOf, taking, UNWATCHED, watched } from './release';
import { look, SHARP_PX, SOFT_PX, softness } from './sight';

/** A picture as a canvas gives it. */
export type Picture = { readonly data: ArrayLike<number>; readonly width: number; readonly height: number };

/** What is said of a frame; corners as shares of its sides, so that they can be drawn over a picture of any size. */
export type Answer = {
  readonly said: Said;
  readonly quad: Quad | undefined;
  readonly confidence: number;
  /** At which sides the page is cut off: 0 left, 1 top, 2 right, 3 bottom. */
  readonly sides: readonly number[];
  readonly release: boolean;
};

/** Sides of a frame's reduction whose longer one is `longest`; it is never enlarged. */
export function reducedSize(width: number, height: number, longest: number): [number, number] {
  const scale = Math.min(1, longest / Math.max(width, height));
  return [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))];
}

export const REDUCED_PX = LONGEST_PX;
export const SHARPNESS_PX = SHARP_PX;

export class Session {
  private watch = UNWATCHED;

  /**
   * The next frame.
   *
   * @param reduced its reduction to `REDUCED_PX`
   * @param sharp gives it at `SHARPNESS_PX`; asked for only once the page lies still
   * @param at when it came, in seconds
   */
  see(reduced: Picture, sharp: () => Picture, at: number): Answer {
    const planes = planesOf(reduced.data, reduced.width, reduced.height);
    const sight = look(planes, this.watch.quad);
    const { outline } = sight;
    const signature = outline && signatureOf(grayOf(planes), outline.quad);
    const share = (quad: Quad) => scaled(quad, 1 / reduced.width, 1 / reduced.height);
    const measure = () => outline && softnessOf(sharp(), share(outline.quad));
    const { watch, said, release } = watched(this.watch, at, sight, signature, measure);
    this.watch = watch;
    return {
      said,
      quad: outline && share(outline.quad),
      confidence: outline?.confidence ?? 0,
      sides: sight.sides,
      release,
    };
  }

  /** One picture by itself: what is wrong with it, or that it is steady. */
  judge(reduced: Picture, sharp: () => Picture): Answer {
    const planes = planesOf(reduced.data, reduced.width, reduced.height);
    const { outline, fault, sides } = look(planes);
    const share = outline && scaled(outline.quad, 1 / reduced.width, 1 / reduced.height);
    const soft = share && !fault ? softnessOf(sharp(), share) : undefined;
    const said = fault ?? (soft !== undefined && soft > SOFT_PX ? 'blurred' : 'steady');
    return { said, quad: share, confidence: outline?.confidence ?? 0, sides, release: false };
  }

  /** The page that lies there is taken by hand: it is not taken again by itself. */
  take(): void {
    if (this.watch.signature) this.watch = taking(this.watch, this.watch.signature);
  }

  /** What was taken came to nothing: it is to be taken after all. */
  forget(): void {
    this.watch = { ...this.watch, taken: undefined, since: undefined };
  }
}

function softnessOf({ data, width, height }: Picture, quad: Quad): number | undefined {
  return softness(grayOf(planesOf(data, width, height)), scaled(quad, width, height));
}

const scaled = (quad: Quad, across: number, down: number): Quad =>
  quad.map(([x, y]): Point => [x * across, y * down]) as unknown as Quad;
