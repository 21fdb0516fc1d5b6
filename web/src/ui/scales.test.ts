import { describe, expect, it } from 'vitest';
import { merged } from '@/api/queries';
import type { PagesNews } from '@/api/types';
import { commandFor, keyWords } from '@/engine/keys/registry';
import { bytes, counted, figure } from '@/words/figures';
import { lineAt, pile } from './ForeEdge';
import { distribution } from './Gauge';

const row = (id: number, state = 'open') => ({ id, state }) as PagesNews['pages'][number];
const news = (change: number, order: number[] | null, ...rows: PagesNews['pages']) =>
  ({ change, order, pages: rows, counts: {}, engine: true }) as unknown as PagesNews;

describe('pages laid over what was known', () => {
  it('keep unchanged rows as they are and put new ones in their place', () => {
    const known = merged(undefined, news(3, [1, 2], row(1), row(2)));
    const result = merged(known, news(5, [1, 3, 2], row(3), row(2, 'ready')));
    expect(result.pages.map(({ id, number }) => [id, number])).toEqual([
      [1, 1],
      [3, 2],
      [2, 3],
    ]);
    expect(result.pages[0]).toBe(known.pages[0]);
    expect(result.change).toBe(5);
  });

  it('move without being told anew, and go when they are in the order no more', () => {
    const known = merged(undefined, news(3, [1, 2, 3], row(1), row(2), row(3)));
    expect(merged(known, news(4, [3, 1])).pages.map(({ id, number }) => [id, number])).toEqual([
      [3, 1],
      [1, 2],
    ]);
  });

  it('are the same list where nothing is new', () => {
    const known = merged(undefined, news(3, [1], row(1)));
    expect(merged(known, news(3, null)).pages).toBe(known.pages);
  });
});

describe('the fore-edge', () => {
  it.each([
    [700, 20],
    [700, 500],
    [700, 5000],
  ])('in %i px finds each of %i lines at its middle', (height, count) => {
    const { pitch, total } = pile(height, count);
    expect(total).toBeLessThanOrEqual(Math.max(height, count * 0.2) + 1e-6);
    for (const index of [0, Math.floor(count / 2), count - 1])
      expect(lineAt((index + 0.5) * pitch, height, count)).toBe(index);
  });

  it('keeps to its ends', () => {
    expect(lineAt(-5, 700, 10)).toBe(0);
    expect(lineAt(9999, 700, 10)).toBe(9);
  });
});

describe('a distribution', () => {
  it('counts every value in its bin', () => {
    const { bars, low, high } = distribution([0, 0, 1, 10], 10);
    expect(bars).toHaveLength(10);
    expect(Math.max(...bars)).toBe(1);
    expect(low).toBeLessThan(0);
    expect(high).toBeGreaterThan(10);
  });

  it('of equal values, or none, has a scale all the same', () => {
    expect(distribution([5, 5], 4).high).toBeGreaterThan(distribution([5, 5], 4).low);
    expect(distribution([], 4).bars).toEqual([]);
  });
});

describe('figures', () => {
  it.each([
    [figure(-1.397, 2, '°'), '−1.40°'],
    [figure(-0.001, 2, '°'), '0.00°'],
    [figure(297, 1, 'mm'), '297.0\u2009mm'],
    [bytes(999), '999\u2009B'],
    [bytes(20_400), '20\u2009kB'],
    [bytes(2_483_487), '2.5\u2009MB'],
    [counted(1, 'page'), '1 page'],
    [counted(2000, 'page'), '2,000 pages'],
  ])('%s', (shown, expected) => expect(shown).toBe(expected));
});

describe('keys', () => {
  const done: string[] = [];
  const commands = [
    { name: 'open', label: '', key: 'Enter', perform: () => done.push('open') },
    { name: 'aside', label: '', key: 'a', enabled: false, perform: () => done.push('aside') },
  ];
  const press = (key: string, tagName = 'DIV', more = {}) =>
    commandFor(commands, {
      key,
      ctrlKey: false,
      metaKey: false,
      altKey: false,
      shiftKey: false,
      target: { tagName } as unknown as HTMLElement,
      ...more,
    });

  it('find their command', () => expect(press('Enter')?.name).toBe('open'));
  it('do nothing while it is not enabled', () => expect(press('a')).toBeUndefined());
  it('leave typing alone', () => expect(press('Enter', 'INPUT')).toBeUndefined());
  it('leave buttons their own Enter', () => expect(press('Enter', 'BUTTON')).toBeUndefined());
  it('are told apart by what is held with them', () => {
    const command = (key: string) => [{ name: 'undo', label: '', key, perform: () => {} }];
    const event = { key: 'z', ctrlKey: true, metaKey: false, altKey: false, shiftKey: false, target: null };
    expect(commandFor(command('Ctrl+z'), event)?.name).toBe('undo');
    expect(commandFor(command('Ctrl+z'), { ...event, key: 'Z', shiftKey: true })).toBeUndefined();
    expect(commandFor(command('?'), { ...event, key: '?', ctrlKey: false, shiftKey: true })).toBeDefined();
    expect(keyWords({ key: 'Shift+ArrowRight' })).toBe('⇧→');
  });
  it('leave the browser its own', () => expect(press('Enter', 'DIV', { ctrlKey: true })).toBeUndefined());
});
