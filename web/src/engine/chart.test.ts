import { describe, expect, it } from 'vitest';
import type { QualityFigure } from '@/api/types';
import { acrossTo, downTo, rangeOf, strays } from './chart';

const figure = (more: Partial<QualityFigure> = {}): QualityFigure => ({
  name: 'noise',
  title: 'Noise of the greys',
  unit: 'L*',
  values: [1, 1.2, 0.8],
  most: 2,
  least: null,
  middle: null,
  lower: null,
  upper: null,
  borne: true,
  drift: '',
  ...more,
});

describe('a control chart', () => {
  it('shows all values and what is borne, with room above and below', () => {
    const range = rangeOf(figure());
    expect(range.least).toBeCloseTo(0.8 - 0.144);
    expect(range.most).toBeCloseTo(2.144);
    expect(rangeOf(figure({ values: [3], most: null })).most).toBeGreaterThan(3);
  });
  it('leaves out what is borne where that is far off', () => {
    expect(rangeOf(figure({ most: 2.3 })).most).toBeGreaterThan(2.3);
    expect(rangeOf(figure({ most: 2.5 })).most).toBeLessThan(1.3);
  });
  it('has larger values above', () => {
    const field = { wide: 100, high: 50 };
    const range = { least: 0, most: 10 };
    expect(downTo(10, range, field)).toBe(0);
    expect(downTo(0, range, field)).toBe(50);
  });
  it('leaves room for what is still to come', () => {
    expect(acrossTo(0, 1, { wide: 80, high: 10 })).toBe(5);
    expect(acrossTo(15, 16, { wide: 80, high: 10 })).toBe(77.5);
  });
  it('tells what strays: beyond its limits, or not borne', () => {
    const limited = figure({ lower: 0.5, upper: 1.5, least: null });
    expect([0.4, 0.5, 1.5, 1.6, 2.1].map((value) => strays(value, limited))).toEqual([true, false, false, true, true]);
    expect(strays(2, figure())).toBe(false);
    expect(strays(70, figure({ most: null, least: 80 }))).toBe(true);
  });
});
