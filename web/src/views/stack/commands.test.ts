import { expect, test, vi } from 'vitest';
import type { Tool } from '@/engine/bench/toolNames';
import { commandFor } from '@/engine/keys/registry';
import { benchCommands } from '@/views/bench/commands';
import { type Place, placeIn, stackCommands } from './commands';

const PLACES: Place[] = ['grid', 'large', 'bench', 'intake', 'bind'];
const TOOLS: Tool[] = ['look', 'level', 'corners', 'borders', 'split'];

/** Hands that note what they are asked to do. */
function hands(values: Record<string, unknown>, done = vi.fn()) {
  return new Proxy(values, {
    get: (of, name) => (name in of ? of[name as string] : (...with_: unknown[]) => done(name, ...with_)),
  });
}

const stack = (place: Place, cut = 0, done = vi.fn()) =>
  stackCommands(hands({ place, shown: 24, columns: 4, cut, some: true, correctable: true }, done) as never, [
    { name: 'cut', label: 'Cut', key: 'x', perform: () => done('cut') },
    { name: 'split', label: 'Split in two …', key: 's', perform: () => done('split') },
  ]);
const bench = (tool: Tool, half = false, done = vi.fn()) =>
  benchCommands(hands({ tool, half, byHand: true, usingOn: false }, done) as never);
const press = (key: string, shiftKey = false) =>
  ({ key, shiftKey, ctrlKey: false, metaKey: false, altKey: false, target: null }) as const;
const keys = (of: { key: string; enabled?: boolean }[]) =>
  of.filter(({ enabled }) => enabled !== false).map(({ key }) => key);

test.each(PLACES)('no key has two meanings in the %s', (place) => {
  const all = keys(stack(place));
  expect(new Set(all).size).toBe(all.length);
});

test.each(TOOLS)('no key has two meanings on the bench with the tool %s', (tool) => {
  const all = keys(bench(tool));
  expect(new Set(all).size).toBe(all.length);
});

test('ways name places', () => {
  expect(['', 'pages/7', 'bench/7', 'bench/7/split', 'intake', 'bind'].map(placeIn)).toEqual([
    'grid',
    'large',
    'bench',
    'bench',
    'intake',
    'bind',
  ]);
});

test('pages are arranged where pages are seen, and on the bench S is not their splitting', () => {
  const named = (place: Place) => stack(place).map(({ name }) => name);
  expect(named('grid')).toEqual(expect.arrayContaining(['cut', 'split']));
  expect(named('bench')).toContain('cut');
  expect(named('bench')).not.toContain('split');
  expect(named('bind')).not.toContain('cut');
});

test('Escape forgets what was cut before it leaves', () => {
  const done = vi.fn();
  commandFor(stack('grid', 2, done), press('Escape'))?.perform();
  commandFor(stack('grid', 0, done), press('Escape'))?.perform();
  commandFor(stack('large', 2, done), press('Escape'))?.perform();
  expect(done.mock.calls).toEqual([['forgetCut'], ['leave'], ['go', '']]);
});

test('arrow keys go by a page, by a row in the grid, and choose with Shift there only', () => {
  const done = vi.fn();
  for (const key of ['ArrowRight', 'ArrowDown', 'Home']) commandFor(stack('grid', 0, done), press(key))?.perform();
  commandFor(stack('grid', 0, done), press('ArrowRight', true))?.perform();
  expect(done.mock.calls).toEqual([
    ['by', 1],
    ['by', 4],
    ['by', -24],
    ['by', 1, true],
  ]);
  expect(commandFor(stack('large'), press('ArrowRight', true))).toBeUndefined();
  expect(commandFor(stack('large'), press('ArrowDown'))).toBeUndefined();
});

test('arrow keys nudge what is in hand, ten times as far with Shift', () => {
  const done = vi.fn();
  commandFor(bench('level', false, done), press('ArrowRight'))?.perform();
  commandFor(bench('level', false, done), press('ArrowLeft', true))?.perform();
  commandFor(bench('split', false, done), press('ArrowLeft', true))?.perform();
  expect(done.mock.calls).toEqual([
    ['levelBy', 0.05],
    ['levelBy', -0.5],
    ['moveLineBy', -10],
  ]);
  expect(commandFor(bench('look'), press('ArrowRight'))).toBeUndefined();
});

test('Enter splits with the line in hand, but not what is half already', () => {
  expect(commandFor(bench('split'), press('Enter'))?.name).toBe('split here');
  expect(commandFor(bench('split', true), press('Enter'))).toBeUndefined();
  expect(commandFor(bench('look'), press('Enter'))).toBeUndefined();
});
