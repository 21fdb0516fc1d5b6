/**
 * Every pair of colours that stand on each other, from the tokens themselves.
 *
 * Source: WCAG 2.2, 1.4.3 (text 4.5 : 1), 1.4.11 (what is no text 3 : 1), and its definition of relative luminance.
 */

import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';

const css = readFileSync(new URL('./theme.css', import.meta.url), 'utf8');
const TOKENS = new Map<string, [light: string, dark: string]>();
for (const [, name = '', value = ''] of css.matchAll(/--color-([a-z-]+): ([^;]+);/g)) {
  const pair = /^light-dark\((#[0-9a-f]{6}), (#[0-9a-f]{6})\)$/.exec(value);
  if (pair) TOKENS.set(name, [pair[1] ?? '', pair[2] ?? '']);
  else if (/^#[0-9a-f]{6}$/.test(value)) TOKENS.set(name, [value, value]);
}

function luminance(hex: string): number {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((at) => {
    const share = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

function contrast(one: string, other: string): number {
  const [light = 0, dark = 0] = [luminance(one), luminance(other)].sort((a, b) => b - a);
  return (light + 0.05) / (dark + 0.05);
}

const PLACES = ['ground', 'panel', 'hover', 'slip'];
const TEXT: [string, string][] = [
  ...PLACES.flatMap((on): [string, string][] => ['ink', 'soft', 'accent'].map((of) => [of, on])),
  ...['fail', 'review', 'pass'].flatMap((of): [string, string][] => [
    [of, 'panel'],
    [of, 'ground'],
  ]),
  ['on-accent', 'accent'],
  ['on-accent', 'accent-deep'],
  ['ink', 'accent-pale'],
  ['accent', 'accent-pale'],
  ['panel', 'ink'],
  ['surround-ink', 'surround'],
  ['surround-ink', 'paper'],
  ['paper', 'mark'],
  ['paper', 'surround-ink'],
];
const SHAPES: [string, string][] = [
  // Controls and what is chosen against what lies around them.
  ...PLACES.map((on): [string, string] => ['control', on]),
  ...PLACES.map((on): [string, string] => ['accent', on]),
  // Rings of focus, of which one is seen: dark on the surround and on paper, light on the lid.
  ['surround-ink', 'surround'],
  ['paper', 'lid'],
  ['paper', 'surround'],
  // What is drawn over pages has a light line beneath a dark one.
  ['mark', 'paper'],
];

const both = (pairs: [string, string][]) =>
  pairs.flatMap(([of, on]) => [[of, on, 'light', 0] as const, [of, on, 'dark', 1] as const]);

it.each(both(TEXT))('text: %s on %s, %s', (of, on, _, which) => {
  expect(contrast(TOKENS.get(of)?.[which] ?? '', TOKENS.get(on)?.[which] ?? '')).toBeGreaterThanOrEqual(4.5);
});

it.each(both(SHAPES))('shapes: %s on %s, %s', (of, on, _, which) => {
  expect(contrast(TOKENS.get(of)?.[which] ?? '', TOKENS.get(on)?.[which] ?? '')).toBeGreaterThanOrEqual(3);
});

it('knows the pairs that the standard gives', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
  expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
});

it('leaves no token out that stands behind or before another', () => {
  const named = new Set([...TEXT, ...SHAPES].flat());
  const decoration = new Set(['hairline', 'slip-line']);
  expect([...TOKENS.keys()].filter((name) => !named.has(name) && !decoration.has(name))).toEqual([]);
});
