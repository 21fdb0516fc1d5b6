import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PageRow } from '@/api/types';
import { type ArrangeHands, afterFor, allowed, arrangeCommands } from './arrange';

const page = (id: number, more: Partial<PageRow> = {}) =>
  ({ id, number: id, original: 'key', aside: '', rescan: '', breaks: false, split: false, ...more }) as PageRow;
const change = vi.fn();
const setCut = vi.fn();
const openSplit = vi.fn();
const askPosition = vi.fn();

function command(name: string, hands: Partial<ArrangeHands> = {}) {
  const chosen = hands.chosen ?? [page(3), page(4)];
  const found = arrangeCommands({
    chosen,
    current: chosen[0],
    cut: [],
    setCut,
    reason: 'by hand',
    change,
    openSplit,
    askPosition,
    ...hands,
  }).find((one) => one.name === name);
  if (!found) throw new Error(`there is no command ${name}`);
  return found;
}

beforeEach(() => vi.clearAllMocks());

describe('what can be done to chosen pages', () => {
  it('turns all of them, once they are known', () => {
    command('right').perform();
    expect(change).toHaveBeenCalledWith({ do: 'turn', pages: [3, 4], degrees: 90 });
    expect(command('right', { chosen: [page(3), page(4, { original: null })] }).enabled).toBe(false);
  });

  it.each(['left', 'cut', 'aside', 'break', 'again', 'split', 'reverse'])(
    'has nothing for %s without a page',
    (name) => {
      expect(command(name, { chosen: [], current: undefined }).enabled).toBe(false);
    },
  );

  it('puts what was cut behind the current page or first, and forgets it', () => {
    command('paste', { cut: [8, 9] }).perform();
    command('paste first', { cut: [8, 9] }).perform();
    expect(change.mock.calls).toEqual([
      [{ do: 'move', pages: [8, 9], after: 3 }],
      [{ do: 'move', pages: [8, 9], after: null }],
    ]);
    expect(setCut.mock.calls).toEqual([[[]], [[]]]);
    expect(command('paste', { cut: [8, 9] }).label).toBe('Put in 2 pages after this page');
    expect(command('paste').enabled).toBe(false);
  });

  it('holds aside for the reason given while one of them is not, and puts back when all are', () => {
    const mixed = command('aside', { chosen: [page(3, { aside: 'blank' }), page(4)], reason: 'duplicate' });
    mixed.perform();
    expect(mixed.label).toBe('Hold aside');
    const back = command('aside', { chosen: [page(3, { aside: 'blank' })] });
    back.perform();
    expect(back.label).toBe('Back into the stack');
    expect(change.mock.calls).toEqual([
      [{ do: 'aside', pages: [3, 4], aside: true, reason: 'duplicate' }],
      [{ do: 'aside', pages: [3], aside: false, reason: 'by hand' }],
    ]);
  });

  it('marks the beginning of a document and pages to capture again, and takes the mark off when all have it', () => {
    command('break').perform();
    command('break', { chosen: [page(3, { breaks: true })] }).perform();
    command('again').perform();
    command('again', { chosen: [page(3, { rescan: 'marked by hand' })] }).perform();
    expect(change.mock.calls.map(([doing]) => doing)).toEqual([
      { do: 'break', pages: [3, 4], on: true },
      { do: 'break', pages: [3], on: false },
      { do: 'rescan', pages: [3, 4], why: 'marked by hand' },
      { do: 'rescan', pages: [3], why: '' },
    ]);
  });

  it('splits one page on the bench, and makes halves one page again at once', () => {
    const whole = page(3);
    command('split', { chosen: [whole] }).perform();
    expect(openSplit).toHaveBeenCalledWith(whole);
    command('split', { chosen: [page(4, { split: true })] }).perform();
    expect(change).toHaveBeenCalledWith({ do: 'unsplit', page: 4 });
    expect(command('split').enabled).toBe(false);
  });

  it('brings pages into another sequence only where there are several', () => {
    command('from behind').perform();
    expect(change).toHaveBeenCalledWith({ do: 'interleave from behind', pages: [3, 4] });
    expect(command('reverse', { chosen: [page(3)] }).enabled).toBe(false);
  });

  it('asks for a position', () => {
    command('position').perform();
    expect(askPosition).toHaveBeenCalledOnce();
  });
});

describe('what somebody may do', () => {
  const all = arrangeCommands({
    chosen: [page(3)],
    current: page(3),
    cut: [],
    setCut,
    reason: 'by hand',
    change,
    openSplit,
    askPosition,
  });
  const named = (rights: { work: boolean; inspect: boolean }) => allowed(all, rights).map(({ name }) => name);
  it('is offered, and nothing else', () => {
    expect(named({ work: false, inspect: false })).toEqual([]);
    expect(named({ work: false, inspect: true })).toEqual(['again']);
    expect(named({ work: true, inspect: true })).toHaveLength(all.length);
  });
});

describe('the page behind which chosen ones go', () => {
  const order = [1, 2, 3, 4, 5];
  it.each([
    [[4], 1, null],
    [[4], 2, 1],
    [[1], 5, 5],
    [[2, 3], 3, 4],
    [[2, 3], 99, 5],
    [[5], -3, null],
    [[1, 2, 3, 4, 5], 2, null],
  ])('%j to position %i: behind %j', (chosen, position, after) => {
    expect(afterFor(order, new Set(chosen), position)).toBe(after);
  });
});
