import { describe, expect, it } from 'vitest';
import type { ToDescribe } from '@/api/types';
import { cellOf, filledDown, saidBefore, saidWith } from './table';

const EMPTY = { title: '', described: {} };
const document = (page: number, said = EMPTY) =>
  ({ number: page, page, first_page: page, pages: 1, title: '', said, clean: null }) as ToDescribe;

describe('a cell of the table of descriptions', () => {
  it('holds what is said, several with semicolons', () => {
    const said = { title: 'Log', described: { creators: ['A', 'B'], date: '1927' } };
    expect([cellOf(said, 'title'), cellOf(said, 'creators'), cellOf(said, 'date'), cellOf(said, 'rights')]).toEqual([
      'Log',
      'A; B',
      '1927',
      '',
    ]);
  });

  it.each([
    ['title', '  Watch   log ', { title: 'Watch log', described: {} }],
    ['date', '1927; 1928', { title: '', described: { date: '1927; 1928' } }],
    ['creators', 'A;; B ', { title: '', described: { creators: ['A', 'B'] } }],
    ['subjects', ' ; ', EMPTY],
  ] as const)('keeps a typed %s', (column, typed, said) => {
    expect(saidWith(EMPTY, column, typed)).toEqual(said);
  });

  it('emptied, says no more', () => {
    expect(saidWith({ title: 'A', described: { date: '1927', rights: 'free' } }, 'date', ' ')).toEqual({
      title: 'A',
      described: { rights: 'free' },
    });
  });
});

describe('filling down', () => {
  const said = { title: '', described: { date: '1927' } };
  const documents = [document(4, said), document(5), document(6, said), document(7)];

  it('gives the next one the text', () => {
    expect(filledDown(documents, 0, 'date', 'next', '1927')).toEqual({ 5: said });
  });

  it('keeps what was typed, too', () => {
    expect(Object.keys(filledDown(documents, 1, 'date', 'next', '1928'))).toEqual(['5', '6']);
  });

  it('gives all behind it the text, and leaves those that have it', () => {
    expect(Object.keys(filledDown(documents, 0, 'date', 'all', '1927'))).toEqual(['5', '7']);
  });

  it('empties, too, and changes nothing behind the last', () => {
    expect(filledDown(documents, 1, 'date', 'next', ' ')).toEqual({ 6: EMPTY });
    expect(filledDown(documents, 3, 'date', 'all', '')).toEqual({});
    expect(filledDown([], 0, 'date', 'all', '1927')).toEqual({});
  });
});

describe('what was said before', () => {
  const told = { stack: { rights: 'free' }, documents: [document(4, { title: 'Log', described: {} }), document(5)] };
  it.each([
    [{ documents: { 4: EMPTY } }, { documents: { 4: { title: 'Log', described: {} } } }],
    [{ stack: { rights: 'closed' } }, { stack: { rights: 'free' } }],
    [
      { documents: { 9: EMPTY }, stack: {} },
      { documents: {}, stack: { rights: 'free' } },
    ],
  ])('is of the same: %j', (said, before) => {
    expect(saidBefore(told, said)).toEqual(before);
  });
});
