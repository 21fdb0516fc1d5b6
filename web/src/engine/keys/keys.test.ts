import { describe, expect, it, test, vi } from 'vitest';
import type { Tool } from '@/engine/bench/toolNames';
import { arrangeCommands } from './arrange';
import { benchCommands } from './bench';
import { intakeCommands } from './intake';
import { curtainCommands, lookCommands } from './look';
import { type Command, commandFor, doubled, holds, keyWords, sheetOf } from './registry';
import { arrangingIn, type Place, placeIn, stackCommands } from './stack';

const TOOLS: Tool[] = ['move', 'level', 'corners', 'borders', 'split'];
const LOADS = ['none', 'open', 'stopped', 'over'] as const;

/** Hands that note what they are asked to do; whatever else is asked of them, they have it. */
function hands<T>(values: Record<string, unknown>, done = vi.fn()): T {
  return new Proxy(values, {
    get: (of, name) => (name in of ? of[name as string] : (...with_: unknown[]) => done(name, ...with_)),
  }) as T;
}
const page = { id: 3, number: 3, original: 'key', aside: '', rescan: '', breaks: false, split: false };
const arranging = () => arrangeCommands(hands({ chosen: [page], current: page, cut: [8], reason: 'by hand' }));
const stack = (place: Place, cut = 0, done = vi.fn()) =>
  stackCommands(hands({ place, shown: 24, columns: 4, cut, some: true, correctable: true, troubled: true }, done));
const bench = (tool: Tool, more = {}, done = vi.fn()) =>
  benchCommands(hands({ tool, half: false, byHand: true, applying: false, ...more }, done));
const look = (done = vi.fn()) => lookCommands(hands({}, done));
const intake = (load: (typeof LOADS)[number], more = {}) =>
  intakeCommands(
    hands({
      ready: load === 'none',
      glass: load === 'none',
      looking: false,
      load,
      files: false,
      feeding: true,
      found: true,
      ...more,
    }),
  );
const EVERYWHERE: Command[] = ['?', 'Ctrl+k', 'Ctrl+Shift+f'].map((key) => ({
  name: key,
  label: key,
  key,
  subject: 'Go to',
  perform: () => undefined,
}));

/** All that answers to keys in a view, put together as the application does. */
const VIEWS: [string, Command[]][] = [
  ['the grid', [...stack('grid'), ...arrangingIn('grid', arranging())]],
  ['the grid with pages cut', [...stack('grid', 2), ...arrangingIn('grid', arranging())]],
  ['a page', [...stack('large'), ...arrangingIn('large', arranging()), ...look()]],
  ...TOOLS.flatMap((tool): [string, Command[]][] =>
    [false, true].map((applying) => [
      `the bench with ${tool}${applying ? ', applying' : ''}`,
      [
        ...stack('bench'),
        ...arrangingIn('bench', arranging()),
        ...bench(tool, { applying }),
        ...look(),
        ...curtainCommands(hands({ enabled: true })),
      ],
    ]),
  ),
  ...LOADS.map((load): [string, Command[]] => [`intake, load ${load}`, [...stack('intake'), ...intake(load)]]),
  ['intake at the camera', [...stack('intake'), ...intake('none', { camera: true, glass: false })]],
  ['intake with files', [...stack('intake'), ...intake('none', { files: true, ready: false, glass: false })]],
  ['bind', stack('bind')],
  ['dispatch', stack('dispatch')],
];

test.each(VIEWS)('no key has two meanings in %s', (_, commands) => {
  expect(doubled([...commands, ...EVERYWHERE])).toEqual([]);
});

test('a doubled key would be noticed, and one that is not enabled is none', () => {
  const command = (key: string, enabled = true): Command => ({ ...(EVERYWHERE[0] as Command), key, enabled });
  expect(doubled([command('z'), command('y'), command('z')])).toEqual(['z']);
  expect(doubled([command('z'), command('z', false), command(''), command('')])).toEqual([]);
});

const press = (key: string, more: object = {}) =>
  ({
    key,
    shiftKey: false,
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    repeat: false,
    target: null,
    ...more,
  }) as const;

describe('a key that is held', () => {
  it('steps on and on, but turns, splits and captures once', () => {
    const held = { repeat: true };
    expect(commandFor(stack('grid'), press('ArrowRight', held))?.name).toBe('next');
    expect(commandFor(arranging(), press('r', held))).toBeUndefined();
    expect(commandFor(bench('split'), press('Enter', held))).toBeUndefined();
    expect(commandFor(intake('none'), press('c', held))).toBeUndefined();
    expect(commandFor(bench('level'), press('ArrowRight', held))?.name).toBe('tilt right');
  });
});

describe('a key while something has the focus', () => {
  /** What `matches` says of an element that is one of these. */
  const on = (tagName: string, ...selectors: string[]) => ({
    target: {
      tagName,
      isContentEditable: false,
      matches: (asked: string) => selectors.some((one) => asked.split(', ').includes(one)),
    },
  });
  const open: Command = { name: 'open', label: '', key: 'Enter', subject: 'Look', perform: () => undefined };
  const next: Command = { ...open, name: 'next', key: 'ArrowRight', repeats: true };
  const after: Command = { ...open, name: 'after', key: 'PageDown' };
  const find: Command = { ...open, name: 'find', key: 'Ctrl+k', anywhere: true };
  const all = [open, next, after, find];

  it.each([
    ['a button', on('BUTTON', 'button'), 'Enter'],
    ['the head of what is folded', on('SUMMARY', 'summary'), 'Enter'],
    ['a tab', on('BUTTON', 'button', '[role=tab]'), 'ArrowRight'],
    ['a handle of the histogram', on('SPAN', '[role=slider]'), 'PageDown'],
    ['a field', on('INPUT', 'input'), 'ArrowRight'],
  ])('on %s is left to it', (_, target, key) => {
    expect(commandFor(all, press(key, target))).toBeUndefined();
  });

  it('on the ground, or on a page of the grid, finds its command', () => {
    expect(commandFor(all, press('Enter', on('DIV')))?.name).toBe('open');
    expect(commandFor(all, press('ArrowRight', on('DIV', '[role=option]')))?.name).toBe('next');
  });

  it('finds the palette from a field too', () => {
    expect(commandFor(all, press('k', { ...on('INPUT', 'input'), ctrlKey: true }))?.name).toBe('find');
  });
});

describe('keys held together', () => {
  const undo = (key: string): Command[] => [
    { name: 'undo', label: '', key, subject: 'Changes', perform: () => undefined },
  ];
  it('are told apart', () => {
    expect(commandFor(undo('Ctrl+z'), press('z', { ctrlKey: true }))?.name).toBe('undo');
    expect(commandFor(undo('Ctrl+z'), press('z', { metaKey: true }))?.name).toBe('undo');
    expect(commandFor(undo('Ctrl+z'), press('Z', { ctrlKey: true, shiftKey: true }))).toBeUndefined();
    expect(commandFor(undo('?'), press('?', { shiftKey: true }))).toBeDefined();
    expect(commandFor(undo('z'), press('z', { ctrlKey: true }))).toBeUndefined();
    expect(commandFor(undo('z'), press('z', { altKey: true }))).toBeUndefined();
  });

  it('are written as they are pressed', () => {
    expect(keyWords({ key: 'Shift+ArrowRight' })).toBe('⇧→');
    expect(keyWords({ key: 'Ctrl+k' })).toBe('Ctrl+K');
    expect(keyWords({ key: ' ' })).toBe('Space');
  });
});

describe('the key sheet', () => {
  const all = [...stack('grid'), ...arrangingIn('grid', arranging())];
  it('has every key once, under its subject, and no thing twice', () => {
    const entries = sheetOf(all).flatMap(({ entries }) => entries);
    const labels = entries.map(({ label }) => label);
    expect(new Set(labels).size).toBe(labels.length);
    const keys = entries.flatMap(({ keys }) => keys);
    expect(new Set(keys).size).toBe(keys.length);
    expect(entries.find(({ label }) => label === 'Undo')?.keys).toEqual(['Z', 'Ctrl+Z']);
  });

  it('leaves what holds the words that are looked for, in any order', () => {
    expect(
      sheetOf(all, 'page NEXT')
        .flatMap(({ entries }) => entries)
        .map(({ label }) => label),
    ).toContain('Next page');
    expect(sheetOf(all, 'no such thing')).toEqual([]);
    expect(holds('Turn to the left', 'left turn')).toBe(true);
    expect(holds('Turn to the left', 'left turned')).toBe(false);
  });
});

test('ways name places', () => {
  expect(['', 'pages/7', 'bench/7', 'bench/7/split', 'intake', 'bind', 'dispatch', 'describe'].map(placeIn)).toEqual([
    'grid',
    'large',
    'bench',
    'bench',
    'intake',
    'bind',
    'dispatch',
    'describe',
  ]);
});

test('keys act on what is seen: nothing is cut, deleted or brought into order where one page is', () => {
  const named = (place: Place) => arrangingIn(place, arranging()).map(({ name }) => name);
  expect(named('grid')).toEqual(expect.arrayContaining(['cut', 'split', 'reverse', 'delete']));
  expect(named('large')).toEqual(expect.arrayContaining(['left', 'aside', 'split']));
  for (const name of ['cut', 'paste', 'reverse', 'delete']) expect(named('large')).not.toContain(name);
  expect(named('bench')).not.toContain('split');
  expect(named('intake')).toEqual([]);
});

test('Escape forgets what was cut before it leaves', () => {
  const done = vi.fn();
  commandFor(stack('grid', 2, done), press('Escape'))?.perform();
  commandFor(stack('grid', 0, done), press('Escape'))?.perform();
  commandFor(stack('large', 2, done), press('Escape'))?.perform();
  commandFor(bench('level', {}, done), press('Escape'))?.perform();
  commandFor(bench('move', {}, done), press('Escape'))?.perform();
  expect(done.mock.calls).toEqual([['forgetCut'], ['leave'], ['go', ''], ['putAway'], ['leave']]);
});

test('arrow keys go by a page, by a row, choose a run with Shift and walk on with Ctrl', () => {
  const done = vi.fn();
  const grid = stack('grid', 0, done);
  for (const key of ['ArrowRight', 'ArrowDown', 'Home']) commandFor(grid, press(key))?.perform();
  commandFor(grid, press('ArrowRight', { shiftKey: true }))?.perform();
  commandFor(grid, press('ArrowRight', { ctrlKey: true }))?.perform();
  expect(done.mock.calls).toEqual([
    ['by', 1, 'alone'],
    ['by', 4, 'alone'],
    ['by', -24, 'alone'],
    ['by', 1, 'run'],
    ['by', 1, 'walk'],
  ]);
  expect(commandFor(stack('large'), press('ArrowRight', { shiftKey: true }))).toBeUndefined();
  expect(commandFor(stack('large'), press('ArrowDown'))).toBeUndefined();
});

test('arrow keys nudge what is in hand, ten times as far with Shift, and step with nothing in hand', () => {
  const done = vi.fn();
  commandFor(bench('level', {}, done), press('ArrowRight'))?.perform();
  commandFor(bench('level', {}, done), press('ArrowLeft', { shiftKey: true }))?.perform();
  commandFor(bench('split', {}, done), press('ArrowLeft', { shiftKey: true }))?.perform();
  commandFor(bench('move', {}, done), press('ArrowRight'))?.perform();
  expect(done.mock.calls).toEqual([
    ['levelBy', 0.05],
    ['levelBy', -0.5],
    ['moveLineBy', -10],
    ['step', 1],
  ]);
});

test('Enter splits with the line in hand, but not what is half already', () => {
  expect(commandFor(bench('split'), press('Enter'))?.name).toBe('split here');
  expect(commandFor(bench('split', { half: true }), press('Enter'))).toBeUndefined();
  expect(commandFor(bench('move'), press('Enter'))).toBeUndefined();
});

test('the view is moved by Ctrl and arrows, and zoomed', () => {
  const done = vi.fn();
  commandFor(look(done), press('ArrowRight', { ctrlKey: true }))?.perform();
  commandFor(look(done), press('+', { shiftKey: true }))?.perform();
  commandFor(look(done), press('0'))?.perform();
  expect(done.mock.calls).toEqual([['pan', 0.2, 0], ['zoom', 1.5], ['whole']]);
});

test('in Intake a key is there only while what it acts on is seen', () => {
  expect(commandFor(intake('none', { ready: false }), press('c'))).toBeUndefined();
  expect(commandFor(intake('open'), press('l'))).toBeUndefined();
  expect(commandFor(intake('over'), press('g'))).toBeUndefined();
  expect(commandFor(intake('stopped'), press('g'))?.name).toBe('go on');
});
