import { describe, expect, it } from 'vitest';
import type { PageRow, Run } from '@/api/types';
import { remarkWords } from '@/words/remarks';
import { remarksOf } from './remarks';

type Some = Partial<PageRow>;

function load(rows: Some[], settings: Partial<Run['settings']> = {}) {
  const pages = new Map(
    rows.map((row, id) => [
      id,
      { original: 'x', aside: '', skew_deg: 0.3, height_mm: 250, shows: ['colour'], ...row } as PageRow,
    ]),
  );
  const run = {
    settings: { source: 'feeder', two_sided: false, ppi: 300, colour: 'colour', name: 'letter', ...settings },
    files: rows.map((_, index) => ({ index, name: '', page: index })),
  } as unknown as Run;
  return { run, pages };
}

const kinds = (rows: Some[], settings: Partial<Run['settings']> = {}) => {
  const { run, pages } = load(rows, settings);
  return remarksOf(run, pages).map(({ kind }) => kind);
};
const said = (rows: Some[], settings: Partial<Run['settings']> = {}) => {
  const { run, pages } = load(rows, settings);
  return remarksOf(run, pages).map((remark) => remarkWords(remark, run));
};
const five = (row: Some = {}) => Array.from({ length: 5 }, () => row);

describe('what is said of a load while its paper is at hand', () => {
  it('is nothing of sheets that came well', () => {
    expect(kinds(five())).toEqual([]);
    expect(kinds([])).toEqual([]);
  });

  it('names the sheet that came in askew, and the guides where several did', () => {
    expect(kinds([...five(), { skew_deg: 2.99 }])).toEqual([]);
    expect(said([...five(), { skew_deg: -3 }])).toEqual([
      'Sheet 6 came in askew. Look whether it is bent, and lay it in again.',
    ]);
    expect(kinds([...five({ skew_deg: 3 })])).toEqual(['guides']);
    expect(kinds([...five(), { skew_deg: 3 }], { source: 'platen' })).toEqual([]);
  });

  it('counts sheets, not sides', () => {
    const rows = [...five(), { skew_deg: 3.2 }];
    expect(said(rows, { two_sided: true })[0]).toContain('Sheet 3 came');
    expect(
      said([...five(), { shows: ['missing corner'] }, { shows: ['missing corner'] }], { two_sided: true })[0],
    ).toBe('Sheets 3 and 4 have a corner folded or missing. Unfold what is folded, and capture them again.');
    expect(said([{ shows: ['missing corner'] }, { shows: ['missing corner'] }], { two_sided: true })[0]).toContain(
      'Sheet 1 has a corner',
    );
  });

  it('asks of a sheet longer than the others whether it is two', () => {
    expect(kinds([...five(), { height_mm: 280 }])).toEqual([]);
    expect(said([...five(), { height_mm: 281 }])[0]).toContain('Sheet 6 is longer than the others');
    // Sheets of several lengths have no length of their own, and three tell of none.
    expect(kinds([{}, {}, { height_mm: 120 }, { height_mm: 180 }, { height_mm: 400 }])).toEqual([]);
    expect(kinds([{}, {}, { height_mm: 400 }])).toEqual([]);
    expect(kinds([{}, {}, {}, { height_mm: 400 }])).toEqual(['longer']);
    expect(kinds([...five(), { height_mm: 400, aside: 'blank' }])).toEqual([]);
    expect(kinds([...five(), { height_mm: 400, original: null }])).toEqual([]);
  });

  it('tells pictures that were captured as text is', () => {
    const rows: Some[] = [...five(), { shows: ['picture', 'colour'] }];
    expect(kinds(rows, { ppi: 300 })).toEqual([]);
    expect(said(rows, { ppi: 200, source: 'platen' })).toEqual([
      'Image 6 shows a picture, captured at 200 ppi as text is. Pictures want 300 ppi or more.',
    ]);
  });

  it('tells text in colour for no reason, once several pages have shown none', () => {
    expect(kinds(five({ shows: [] }).slice(0, 3))).toEqual([]);
    expect(said(five({ shows: [] }).slice(0, 4))[0]).toContain('No colour was seen on 4 pages');
    expect(kinds([...five({ shows: [] }), { shows: ['colour'] }])).toEqual([]);
    expect(kinds([...five({ shows: [] }), { shows: ['picture'] }])).toEqual([]);
    expect(kinds(five({ shows: [] }), { colour: 'grey' })).toEqual([]);
  });

  it('tells names that nobody has given', () => {
    expect(said(five(), { name: 'page' })[0]).toContain('Files are named “page”');
  });

  it('counts places where there are many', () => {
    const rows = Array.from({ length: 7 }, () => ({ shows: ['missing corner' as const, 'colour' as const] }));
    expect(said(rows)[0]).toContain('Sheets 1, 2, 3, 4 and 3 more have');
  });
});
