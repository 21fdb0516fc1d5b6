/** When a page before the camera is taken without a touch: a port of core's `release`, which says why; held to it by a test. */

import { fromRectangle, mapped, type Quad } from '@/engine/geometry/projective';
import { apart, median } from './outline';
import { blurred, type Plane, sampled } from './plane';
import { type LiveFault, type Sight, SOFT_PX } from './sight';

export const HOLD_S = 0.6;
const GONE_S = 0.4;
const MOVED = 0.004;
const [STIR, SAME] = [1.3, 1.6];
const GRID = 24;
const [WITHIN, CALM_PX] = [0.04, 9];

export type Signature = Float64Array;
/** What is said of a frame: what is wrong; that the page lies well; that it has been taken; or that it looks as if it had. */
export type Said = LiveFault | 'steady' | 'taken' | 'same';

export type Watch = {
  /** Since when the page has lain still, in seconds. */
  readonly since?: number | undefined;
  readonly quad?: Quad | undefined;
  readonly signature?: Signature | undefined;
  /** Of the page taken last, until it has gone. */
  readonly taken?: Signature | undefined;
  /** Since when there has been no page. */
  readonly gone?: number | undefined;
  /** Something has moved since the last one was taken. */
  readonly stirred: boolean;
};

export const UNWATCHED: Watch = { stirred: false };

/** What a page looks like, roughly, however it lies. */
export function signatureOf(gray: Plane, quad: Quad): Signature {
  const place = fromRectangle([1, 1], quad);
  const calm = blurred(gray, CALM_PX);
  const found = new Float64Array(GRID * GRID);
  let sum = 0;
  for (let row = 0; row < GRID; row++)
    for (let column = 0; column < GRID; column++) {
      const [u, v] = [column, row].map((at) => ((at + 0.5) / GRID) * (1 - 2 * WITHIN) + WITHIN) as [number, number];
      const [x, y] = mapped(place, [u, v]);
      const value = sampled(calm, x - 0.5, y - 0.5);
      found[row * GRID + column] = value;
      sum += value;
    }
  const mean = Math.max(1, sum / found.length);
  return found.map((value) => (value * 128) / mean);
}

/** Mean absolute difference of two signatures, whatever the light, in gray levels. */
export function difference(one: Signature, other: Signature): number {
  const off = Array.from(one, (value, at) => value - (other[at] as number));
  const middle = median(off);
  return off.reduce((sum, value) => sum + Math.abs(value - middle), 0) / off.length;
}

/** The next frame: what is known after it, what is said of it, and whether the page is to be taken now. */
export function watched(
  watch: Watch,
  at: number,
  sight: Sight,
  signature: Signature | undefined,
  softness: () => number | undefined,
): { watch: Watch; said: Said; release: boolean } {
  if (sight.fault === 'no page' || !sight.outline || !signature) {
    const none = sight.fault === 'no page';
    const gone = watch.gone ?? at;
    const left = none && at - gone >= GONE_S;
    return {
      watch: { taken: left ? undefined : watch.taken, stirred: true, gone: none ? gone : undefined },
      said: sight.fault ?? 'no page',
      release: false,
    };
  }
  const { quad } = sight.outline;
  const stays = watch.quad && watch.signature && !moved(watch.quad, quad, watch.signature, signature);
  const known: Watch = { ...watch, quad, signature, gone: undefined };
  if (sight.fault !== undefined)
    return {
      watch: { ...known, since: undefined, stirred: watch.stirred || !stays },
      said: sight.fault,
      release: false,
    };
  if (!stays) return { watch: { ...known, since: undefined, stirred: true }, said: 'moves', release: false };
  const since = watch.since ?? at;
  const lying: Watch = { ...known, since };
  const held = at - since >= HOLD_S;
  if (watch.taken && difference(watch.taken, signature) <= SAME)
    return { watch: lying, said: watch.stirred && held ? 'same' : 'taken', release: false };
  if (!held) return { watch: lying, said: 'steady', release: false };
  const soft = softness();
  if (soft !== undefined && soft > SOFT_PX) return { watch: lying, said: 'blurred', release: false };
  return { watch: taking(lying, signature), said: 'taken', release: true };
}

/** A page that is taken now, by itself or by key, is not taken again. */
export const taking = (watch: Watch, signature: Signature): Watch => ({ ...watch, taken: signature, stirred: false });

function moved(before: Quad, now: Quad, was: Signature, isNow: Signature): boolean {
  const [xs, ys] = [now.map(([x]) => x), now.map(([, y]) => y)];
  const extent = Math.hypot(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  return apart(before, now) > MOVED * extent || difference(was, isNow) > STIR;
}
