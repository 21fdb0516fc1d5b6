import { expect, it } from 'vitest';
import type { PageRow } from '@/api/types';
import { comingOf } from './coming';

const page = (id: number, state = 'ready', breaks = false) => ({ id, state, breaks }) as PageRow;
const ids = (pages: PageRow[], starts: number[]) => comingOf(pages, starts).map((one) => one.map(({ id }) => id));

it('documents begin where the server says, by separators and blank pages too', () => {
  expect(ids([page(1), page(2), page(3), page(4)], [1, 3])).toEqual([
    [1, 2],
    [3, 4],
  ]);
});

it('a start on a page that is aside begins one all the same, with the next page that is ready', () => {
  expect(ids([page(1), page(2, 'aside'), page(3)], [1, 2])).toEqual([[1], [3]]);
});

it('pages that are aside or failed are in none, and starts without ready pages make none', () => {
  expect(ids([page(1, 'failed'), page(2, 'aside')], [1, 2])).toEqual([]);
  expect(ids([page(1), page(2, 'failed'), page(3)], [])).toEqual([[1, 3]]);
});
