import { describe, expect, it } from 'vitest';
import type { PageRow } from '@/api/types';
import { causesOf, troubled } from './trouble';

const row = (more: Partial<PageRow>) => ({ state: 'ready', error: '', trouble: null, ...more }) as PageRow;
const waits = (message: string, again_at: string) => row({ state: 'correct', trouble: { message, again_at } });

describe('what keeps pages from being worked on', () => {
  it('is nothing where all is well', () => {
    expect(troubled([])).toBeUndefined();
    expect(troubled([row({}), row({ state: 'measure' })])).toBeUndefined();
  });

  it('is told once, by what most pages share, with the next try', () => {
    const pages = [
      waits('No room.', '2026-01-02T10:05'),
      waits('Slow.', '2026-01-02T10:01'),
      waits('No room.', '2026-01-02T10:07'),
    ];
    expect(troubled(pages)).toEqual({ waiting: 3, failed: 0, message: 'No room.', againAt: '2026-01-02T10:01' });
  });

  it('puts what passes before what failed', () => {
    const failed = row({ state: 'failed', error: 'Damaged.' });
    expect(troubled([failed, failed, waits('Slow.', '2026-01-02T10:01')])).toMatchObject({
      waiting: 1,
      failed: 2,
      message: 'Slow.',
    });
    expect(troubled([failed, row({})])).toEqual({ waiting: 0, failed: 1, message: 'Damaged.', againAt: undefined });
  });
});

it('why pages failed is told once for each cause', () => {
  const failed = ['Damaged.', 'Too large.', 'Damaged.'].map((error, at) => row({ error, number: at + 1 }));
  expect(causesOf(failed).map(({ message, pages }) => [message, pages.map(({ number }) => number)])).toEqual([
    ['Damaged.', [1, 3]],
    ['Too large.', [2]],
  ]);
  expect(causesOf([])).toEqual([]);
});
