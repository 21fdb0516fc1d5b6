import { describe, expect, it } from 'vitest';
import type { PageRow, Run } from '@/api/types';
import { loose, tiltsOf } from './tilts';

describe('guides', () => {
  it.each([
    ['straight', [0.1, -0.3, 0.2, 0, 0.1, -0.2, 0.3, 0]],
    ['one sheet askew', [0.1, 6, 0.2, 0, 0.1, -0.2, 0.3, 0]],
    ['two sheets askew', [0.1, 6, 0.2, 0, -5, -0.2, 0.3, 0]],
    ['just below, however often', [1.99, -1.99, 1.99, 1.99]],
    ['growing on few sheets', [0, 0.5, 1, 1.5, 1.9]],
    ['growing by little', [0, 0.2, 0.4, 0.6, 0.8, 1.0, 1.2, 1.4]],
    ['nothing', []],
  ])('need no look: %s', (_, tilts) => expect(loose(tilts)).toBeUndefined());

  it.each([
    ['three sheets that are tilted', [0, 2, 0, -2.5, 0, 2], { largest: 2.5, several: true, grows: false }],
    ['a tilt that grows', [0, 0.3, 0.6, 0.9, 1.2, 1.5], { largest: 1.5, several: false, grows: true }],
    ['one that grows to either side', [0.1, -0.5, 1, -1.4, 1.9, -2.4], { largest: 2.4, several: false, grows: true }],
  ])('need one: %s', (_, tilts, found) => expect(loose(tilts)).toEqual(found));
});

describe('tilts of a load', () => {
  const pages = new Map([1, 2, 3, 4].map((id) => [id, { id, skew_deg: id === 3 ? null : id / 2 } as PageRow]));
  const files = [1, 2, 3, 4].map((page, index) => ({ index, page, name: '' }));
  const run = (more: object) =>
    ({ files, settings: { source: 'feeder', two_sided: false, ...more } }) as unknown as Run;

  it('are those of its measured fronts, in the order in which they came', () => {
    expect(tiltsOf(run({}), pages)).toEqual([0.5, 1, 2]);
    expect(tiltsOf(run({ two_sided: true }), pages)).toEqual([0.5]);
    expect(tiltsOf(run({ source: 'platen' }), pages)).toEqual([]);
  });
});
