import { useState } from 'react';
import type { Correction } from '@/api/bench';
import type { Page, PageRow } from '@/api/types';
import { asField, corrections, nothingOf } from '@/engine/bench/corrections';
import type { Hands } from '@/engine/changes/hands';
import { opened, reordered, rotated, type Side, tiltOf } from '@/engine/geometry/corners';
import type { Quad } from '@/engine/geometry/projective';
import { type Point, type Turn, turned } from '@/engine/geometry/turned';
import type { Lie } from '@/engine/zoom/view';
import { useCorrection } from './useCorrection';
import { usePreview } from './usePreview';
import { useSettled } from './useSettled';
import { useSplitLine } from './useSplitLine';

const BACK_MM = 2;

const STAYS_MS = 300;

/** A page on the bench: what it is, what it would be, and what hands can set on it. `data` is measured and planned. */
export function useBench(page: PageRow, data: Page, hands: Hands) {
  const { plan: saved, measurements: measured } = data;
  if (!saved || !measured || !page.original) throw new Error('a page on the bench is measured and planned');
  const [longest, setLongest] = useState(1000);
  const { wish, pending, set, flush } = useCorrection(page.id, data, hands);
  const { split: movedTo, ...tried } = wish;
  const asked = { page: page.id, revision: String(data.row.change), correction: tried, split: movedTo, longest };
  // A page that is only passed by needs no tones of its own.
  const stays = useSettled(page.id, STAYS_MS);
  const preview = usePreview(stays || pending || !page.clean ? asked : undefined);
  const own: Correction = { ...corrections(data), ...tried };
  // Between two answers the last one stands.
  const shown = pending || !page.clean ? preview.data : undefined;
  const plan = shown?.plan ?? saved;
  const captured = measured.size_px;
  const lie: Lie = { quad: plan.quad, size: plan.size_px, turn: turnOf(plan.turn), captured };
  const corners: Quad = own.quad ?? reordered(lie.quad, lie.turn);
  const plain: Quad = own.plain ?? plan.clear_outside ?? measured.bright_quad;
  const upright = (point: Point) => turned(point, captured, lie.turn);
  const splitting = useSplitLine(data, lie, { movedTo, set, change: (doing) => void hands.do(doing) });

  const levelTo = (degrees: number) => {
    if (own.quad) {
      const [a, b] = reordered(corners, -lie.turn as -90);
      set({ quad: asField(rotated(corners, degrees - tiltOf(upright(a), upright(b)))) });
    } else set({ skew: Math.round(degrees * 1000) / 1000 });
  };
  return {
    page,
    data,
    measured,
    plan,
    own,
    lie,
    corners,
    plain,
    upright,
    /** What is set is not saved yet. */
    pending,
    preview: shown,
    histogram: preview.data?.histogram,
    trouble: preview.error,
    setLongest,
    set,
    flush,
    levelTo,
    levelBy: (by: number) => {
      if (own.quad) set({ quad: asField(rotated(corners, by)) });
      else levelTo((own.skew ?? plan.skew_deg) + by);
    },
    keepBorder: (side: number) => {
      const beyond = (BACK_MM / 25.4) * (measured.ppi?.[0] ?? 300);
      set({ plain: asField(opened(plain, measured.page_quad, (side + 4) as Side, captured, beyond)) }, true);
    },
    asTreated: () => {
      const nothing = nothingOf(own);
      if (nothing) set(nothing, true);
    },
    byHand: nothingOf(own) !== undefined,
    line: splitting.line,
    half: splitting.half,
    moveLine: splitting.move,
    moveLineBy: splitting.moveBy,
    split: () => {
      // What is still being set belongs to both halves.
      flush();
      if (!splitting.half) splitting.split();
    },
    unsplit: () => {
      flush();
      splitting.unsplit();
    },
  };
}

export type BenchModel = ReturnType<typeof useBench>;

const turnOf = (degrees: number): Turn => (degrees === 90 || degrees === 180 || degrees === 270 ? degrees : 0);
