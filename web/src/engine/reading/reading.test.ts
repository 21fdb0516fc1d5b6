import { describe, expect, it } from 'vitest';
import type { Box, Doubt, PageText, TextWord } from '@/api/types';
import { keyOf, lastOf, NO_QUEUE, type Queue, queue, wants } from './queue';
import { coreOf, lineWith, putLike, STRIP_SHAPE, shadeOf, stripOf, wordAt } from './words';

const row = (page: number, place: number): Doubt => ({
  page,
  place,
  text: `w${place}`,
  doubt: 1 - place / 100,
  box: [place * 10, 0, place * 10 + 8, 8],
  suggestions: [],
});
const came = (state: Queue, rows: Doubt[], most = 2) => queue(state, { kind: 'came', round: state.round, rows, most });

describe('the queue of doubtful words', () => {
  it('wants rows at first, none while they come, and none once the server has no more', () => {
    expect(wants(NO_QUEUE)).toBe(true);
    expect(wants(queue(NO_QUEUE, { kind: 'fetching' }))).toBe(false);
    expect(wants(came(NO_QUEUE, [row(1, 0), row(1, 1)]))).toBe(true);
    expect(wants(came(NO_QUEUE, [row(1, 0)]))).toBe(false);
  });

  it('goes on from where it stands when a word is decided', () => {
    const three = came(NO_QUEUE, [row(1, 0), row(1, 1), row(1, 2)], 3);
    const second = queue(three, { kind: 'step', by: 1 });
    const after = queue(second, { kind: 'decided', words: [row(1, 1)] });
    expect(after.rows.map(({ place }) => place)).toEqual([0, 2]);
    expect(after.rows[after.at]?.place).toBe(2);
    const before = queue(second, { kind: 'decided', words: [row(1, 0), row(1, 1)] });
    expect(before.rows[before.at]?.place).toBe(2);
  });

  it('does not show again what was decided and still came', () => {
    const decided = queue(came(NO_QUEUE, [row(1, 0)], 1), { kind: 'decided', words: [row(1, 0)] });
    expect(came(decided, [row(1, 0), row(1, 1)]).rows.map(({ place }) => place)).toEqual([1]);
  });

  it('shows each word once, whatever comes twice', () => {
    const twice = came(came(NO_QUEUE, [row(1, 0), row(1, 1)]), [row(1, 1), row(1, 2)]);
    expect(twice.rows.map(keyOf)).toEqual([row(1, 0), row(1, 1), row(1, 2)].map(keyOf));
    expect(lastOf(twice)?.place).toBe(2);
  });

  it('stays within its ends', () => {
    const two = came(NO_QUEUE, [row(1, 0), row(1, 1)]);
    expect(queue(two, { kind: 'step', by: -1 }).at).toBe(0);
    expect(queue(two, { kind: 'step', by: 9 }).at).toBe(1);
    expect(queue(NO_QUEUE, { kind: 'step', by: 1 }).at).toBe(0);
  });

  it('takes no answer to a question of before it began anew', () => {
    const anew = queue(came(NO_QUEUE, [row(1, 0)]), { kind: 'anew' });
    expect(anew.rows).toEqual([]);
    expect(queue(anew, { kind: 'came', round: 0, rows: [row(1, 5)], most: 2 })).toBe(anew);
    expect(queue(anew, { kind: 'failed', round: 0 })).toBe(anew);
    expect(wants(queue(anew, { kind: 'failed', round: anew.round }))).toBe(false);
  });
});

const word = (text: string, box: Box, doubt = 0): TextWord => ({ text, box, doubt, mark: '', alternatives: [] });
const text: PageText = {
  language: 'eng',
  size_px: [1000, 1400],
  blocks: [{ kind: 'text', box: [100, 100, 500, 200] }],
  lines: [
    { block: 0, words: [word('on', [100, 100, 160, 140]), word('2gth', [180, 100, 280, 140], 0.9)] },
    { block: 0, words: [word('inst.', [100, 160, 200, 200])] },
  ],
  left_out: [],
  lost: [],
};

describe('words of a page', () => {
  it.each([
    ['2gth,', '29th,', '2gth', '29th'],
    ['2gth', '29th', '(2gth;', '(29th;'],
    ['Hxrrow.', 'Harrow.', 'Hxrrow', 'Harrow'],
    ['|', 'I', '|', 'I'],
  ])('puts %s right as %s, and %s so as %s', (before, after, other, put) => {
    expect(putLike(before, after, other)).toBe(put);
  });

  it('has a core without what stands around it', () => {
    expect(coreOf('“Harrow’s,”')).toBe('Harrow’s');
    expect(coreOf('—')).toBe('');
  });

  it('finds the line of a word, and nothing where there is none any more', () => {
    expect(lineWith(text, [180, 100, 280, 140])).toMatchObject({ at: 1, block: 0, box: [100, 100, 280, 140] });
    expect(lineWith(text, [181, 100, 280, 140])).toBeUndefined();
  });

  it('finds the word under a place', () => {
    expect(wordAt(text, [190, 120])?.text).toBe('2gth');
    expect(wordAt(text, [170, 120])).toBeUndefined();
  });

  it.each([
    [0.24, '', 'none'],
    [0.25, '', 'some'],
    [0.59, '', 'some'],
    [0.6, '', 'much'],
    [0.9, 'corrected', 'none'],
  ] as const)('shades a doubt of %s, %s, as %s', (doubt, mark, shade) => {
    expect(shadeOf({ doubt, mark })).toBe(shade);
  });

  it.each([[[0, 0, 40, 40]], [[960, 1360, 1000, 1400]], [[500, 700, 900, 740]], [[0, 0, 1000, 20]]] as [Box][])(
    'shows a strip of one shape around %s, on the page',
    (box) => {
      const [left, top, width, height] = stripOf({ words: [word('x', box)], at: 0, box, block: 0 }, [1000, 1400]);
      expect(Math.min(left, top)).toBeGreaterThanOrEqual(0);
      expect(left + width).toBeLessThanOrEqual(1000);
      expect(top + height).toBeLessThanOrEqual(1400);
      expect(left).toBeLessThanOrEqual(box[0]);
      expect(left + width).toBeGreaterThanOrEqual(box[2]);
      if (width < 1000) expect(width / height).toBeCloseTo(STRIP_SHAPE[0] / STRIP_SHAPE[1], 1);
    },
  );
});
