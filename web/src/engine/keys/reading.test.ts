import { expect, it } from 'vitest';
import { type ReadingHands, readingCommands } from './reading';
import { commandFor, doubled } from './registry';

const nothing = () => undefined;
const hands: ReadingHands = {
  some: true,
  suggestions: 5,
  alike: true,
  marked: true,
  inHand: false,
  take: nothing,
  takeAll: nothing,
  choose: nothing,
  unreadable: nothing,
  notText: nothing,
  edit: nothing,
  list: nothing,
  back: nothing,
  block: nothing,
  area: nothing,
  order: nothing,
  step: nothing,
  scope: nothing,
  find: nothing,
  turn: nothing,
  putAway: nothing,
  leave: nothing,
};

it('has one command a key, whatever is in hand', () => {
  for (const inHand of [true, false]) expect(doubled(readingCommands({ ...hands, inHand }))).toEqual([]);
});

it('leaves letters to the word that is typed', () => {
  const letters = readingCommands(hands).filter(({ key }) => /^(Shift\+)?[a-z]$/.test(key));
  expect(letters).toEqual([]);
});

it('takes only suggestions that there are', () => {
  let taken = -1;
  const commands = readingCommands({ ...hands, suggestions: 2, choose: (at) => (taken = at) });
  const press = (key: string) =>
    commandFor(commands, {
      key,
      ctrlKey: false,
      metaKey: false,
      altKey: false,
      shiftKey: false,
      repeat: false,
      target: null,
    });
  press('2')?.perform();
  expect(taken).toBe(1);
  expect(press('3')).toBeUndefined();
});

it('does nothing to a word where there is none', () => {
  const enabled = readingCommands({ ...hands, some: false, alike: false }).filter(({ enabled }) => enabled !== false);
  expect(enabled.some(({ subject }) => subject === 'Mark')).toBe(false);
});
