// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, expect, it } from 'vitest';
import type { Counts } from '@/api/types';
import { Heard } from './Heard';

afterEach(cleanup);

const counts = (measured: number): Counts => ({
  pages: 3,
  opened: 3,
  measured,
  corrected: 0,
  read: 0,
  aside: 0,
  failed: 0,
  ready: 0,
  inspect: 0,
});
const progress = () => screen.getByRole('status', { name: 'Progress' }).textContent;

it('the end of a step is heard, and stays said while figures run on', () => {
  const { rerender } = render(<Heard counts={undefined} page="" />);
  rerender(<Heard counts={counts(1)} page="" />);
  rerender(<Heard counts={counts(2)} page="" />);
  expect(progress()).toBe('');
  rerender(<Heard counts={counts(3)} page="" />);
  expect(progress()).toBe('Measured: all 3 pages.');
  rerender(<Heard counts={{ ...counts(3), corrected: 1 }} page="" />);
  expect(progress()).toBe('Measured: all 3 pages.');
});

it('the page that one has gone to is heard', () => {
  const { rerender } = render(<Heard counts={counts(3)} page="Page 1 of 3, ready" />);
  rerender(<Heard counts={counts(3)} page="Page 2 of 3, failed" />);
  expect(screen.getByRole('status', { name: 'Page' }).textContent).toBe('Page 2 of 3, failed');
});
