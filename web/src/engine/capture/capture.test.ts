import { describe, expect, it } from 'vitest';
import type { Run, Station } from '@/api/types';
import { leavesOf } from './leaves';
import { papersFor, sizeOf } from './papers';
import { backsAfter, estimate, FIRST_WISH, fitting, hindrance, settingsOf, type Wish } from './wish';

const pace = {
  job_s: 2,
  image_s: 1,
  megapixel_s: 0.5,
  pixel_bytes: { bitonal: 0.02, grey: 0.2, colour: 0.4 },
  captures: 3,
};
const glass = { width_mm: 216, height_mm: 297, resolutions: [75, 300, 1200], pace };
const flatbed = { id: 1, platen: glass, feeder: null, two_sided: false } as unknown as Station;
const feeder = {
  id: 2,
  platen: null,
  feeder: { ...glass, resolutions: [200, 300] },
  two_sided: false,
} as unknown as Station;

describe('leaves before they are applied', () => {
  it('eight sheets: fronts 1, 3 … 15, backs as 16, 14 … 2', () => {
    const { leaves, trouble } = leavesOf(8, 8, new Set(), true);
    expect(trouble).toBeUndefined();
    expect(leaves[0]).toEqual({ front: 0, back: 7 });
    expect(leaves[7]).toEqual({ front: 7, back: 0 });
  });

  it('wrong counts are explained, and mended by marking the sheet without a back', () => {
    expect(leavesOf(8, 7, new Set(), true).trouble).toContain('mark the sheet that has no back');
    expect(leavesOf(8, 7, new Set([7]), true)).toEqual({
      leaves: [...[6, 5, 4, 3, 2, 1, 0].map((back, front) => ({ front, back })), { front: 7, back: null }],
    });
    expect(leavesOf(7, 8, new Set(), true).trouble).toContain('1 too many');
  });
});

describe('a wish', () => {
  it('is fitted to what the station has', () => {
    expect(fitting({ ...FIRST_WISH, sides: 'both', ppi: 600 }, feeder)).toMatchObject({
      source: 'feeder',
      sides: 'apart',
      ppi: 300,
    });
    expect(fitting({ ...FIRST_WISH, source: 'feeder' }, flatbed).source).toBe('platen');
  });

  it('grows in bytes with the square of the resolution, in time above what is fixed', () => {
    const at = (ppi: number) => estimate({ ...FIRST_WISH, ppi }, flatbed, [], []);
    expect(at(600).bytes / at(300).bytes).toBeCloseTo(4);
    expect((at(600).seconds - 3) / (at(300).seconds - 3)).toBeCloseTo(4);
    const grey = estimate({ ...FIRST_WISH, colour: 'grey' }, flatbed, [], []);
    expect(grey.seconds - 3).toBeCloseTo((at(300).seconds - 3) / 2);
    expect(grey.bytes).toBeCloseTo(at(300).bytes / 2);
  });

  it('is told for each frame of the glass, each side of counted sheets, and else for each sheet', () => {
    const frame = { x: 50, y: 50, width: 25.4, height: 25.4, angle: 0 };
    const two = estimate({ ...FIRST_WISH, ppi: 1000 }, flatbed, [frame, frame], []);
    expect(two).toMatchObject({ images: 2, each: false });
    expect(two.seconds).toBeCloseTo(2 * 2 + 2 * 1 + 2 * 0.5);
    expect(two.bytes).toBeCloseTo(2e6 * 0.4);
    const fed: Wish = { ...FIRST_WISH, source: 'feeder', sides: 'both', sheets: '5' };
    const counted = estimate(fed, feeder, [], []);
    const each = estimate({ ...fed, sheets: '' }, feeder, [], []);
    expect([counted.images, counted.each, each.images, each.each]).toEqual([10, false, 2, true]);
    expect(counted.seconds).toBeCloseTo(2 + 5 * each.seconds);
  });

  it('says what stands against it', () => {
    const tiny = { x: 50, y: 50, width: 0, height: 10, angle: 0 };
    expect(hindrance(FIRST_WISH, flatbed, [tiny], undefined)).toContain('too small');
    expect(hindrance({ ...FIRST_WISH, place: 'after' }, flatbed, [], undefined)).toContain('Choose the page');
    expect(hindrance(FIRST_WISH, flatbed, [], undefined)).toBeUndefined();
  });

  it('turns the pages as the glass is seen, and those of a feeder not', () => {
    const asked = { frames: [], page: undefined, half: '', backs: 0, papers: [] } as const;
    const turns = [0, 1, 2, 3, 4].map((quarter) => settingsOf(FIRST_WISH, { ...asked, quarter }).turn);
    expect(turns).toEqual([0, 90, 180, 270, 0]);
    expect(settingsOf({ ...FIRST_WISH, source: 'feeder' }, { ...asked, quarter: 1 }).turn).toBe(0);
  });

  it('names the page only where it matters', () => {
    expect(settingsOf(FIRST_WISH, { frames: [], page: 7, half: '', backs: 0, quarter: 0, papers: [] }).page).toBeNull();
    expect(
      settingsOf({ ...FIRST_WISH, place: 'after' }, { frames: [], page: 7, half: '', backs: 0, quarter: 0, papers: [] })
        .page,
    ).toBe(7);
  });
});

describe('the backs of fronts that are in', () => {
  const asked = { frames: [], page: undefined, quarter: 0, papers: [] };

  it('are captured as the fronts were, and as many as there are', () => {
    const fronts = { station: 4, settings: { ppi: 200, colour: 'grey', name: 'ledger' } } as Run;
    const wish = backsAfter({ ...FIRST_WISH, place: 'after' }, fronts);
    expect(wish).toMatchObject({
      station: 4,
      source: 'feeder',
      sides: 'apart',
      ppi: 200,
      colour: 'grey',
      name: 'ledger',
      place: 'end',
    });
    expect(settingsOf({ ...wish, sheets: '99' }, { ...asked, half: 'backs', backs: 7 })).toMatchObject({
      half: 'backs',
      sheets: 7,
    });
    expect(settingsOf({ ...wish, sheets: '99' }, { ...asked, half: 'fronts', backs: 0 })).toMatchObject({ sheets: 99 });
  });
});

describe('paper sizes', () => {
  const papers = [
    { name: 'A3', width_mm: 297, height_mm: 420, standard: 'ISO 216' },
    { name: 'A4', width_mm: 210, height_mm: 297, standard: 'ISO 216' },
    { name: 'A7', width_mm: 74, height_mm: 105, standard: 'ISO 216' },
  ];

  it('offer what the station can take', () => {
    expect(papersFor(papers, glass, 'platen').map(({ value }) => value)).toEqual(['each', 'A4']);
    expect(papersFor(papers, undefined, 'feeder').map(({ value }) => value)).toEqual(['each', 'A3', 'A4', 'long']);
  });

  it('are asked for in mm, but for those without a size', () => {
    expect(sizeOf('A4', papers)).toEqual([210, 297]);
    expect(sizeOf('long', papers)).toBeNull();
  });
});
