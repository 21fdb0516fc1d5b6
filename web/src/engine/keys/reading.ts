/** What keys do where text is put right. Letters are typed into the word, so that none of them is a command. */

import type { Command } from './registry';

export type ReadingHands = {
  /** Whether a word is in hand, how many suggestions it has, and whether there are words like it. */
  some: boolean;
  suggestions: number;
  alike: boolean;
  /** Whether the word in hand was put right before. */
  marked: boolean;
  /** Whether something lies over the page: an area in hand, blocks being counted. */
  inHand: boolean;
  take: () => void;
  takeAll: () => void;
  choose: (at: number) => void;
  unreadable: () => void;
  notText: () => void;
  edit: () => void;
  list: () => void;
  back: () => void;
  block: () => void;
  area: () => void;
  order: () => void;
  step: (by: number) => void;
  scope: () => void;
  find: () => void;
  turn: (way: 'undo' | 'redo') => void;
  putAway: () => void;
  leave: () => void;
};

export function readingCommands(hands: ReadingHands): Command[] {
  const { some, suggestions, alike, inHand, step } = hands;
  const about = { subject: 'Mark', enabled: some } as const;
  const number = (at: number): Command => ({
    name: `suggestion ${at + 1}`,
    label: 'Take this suggestion',
    key: String(at + 1),
    subject: 'Mark',
    enabled: some && at < suggestions,
    perform: () => hands.choose(at),
  });
  return [
    { name: 'take', label: 'Take it as it stands', key: 'Enter', ...about, perform: hands.take },
    {
      name: 'take all',
      label: 'Put all that look the same right',
      key: 'Shift+Enter',
      ...about,
      enabled: some && alike,
      perform: hands.takeAll,
    },
    ...[0, 1, 2, 3, 4].map(number),
    { name: 'edit', label: 'Edit the word', key: 'F2', ...about, perform: hands.edit },
    { name: 'unreadable', label: 'Cannot be read', key: '-', ...about, perform: hands.unreadable },
    { name: 'not text', label: 'Not text', key: 'Delete', ...about, perform: hands.notText },
    { name: 'list', label: 'Put the word on the word list', key: '+', ...about, perform: hands.list },
    {
      name: 'taken back',
      label: 'Back to what was read',
      key: 'F9',
      ...about,
      enabled: some && hands.marked,
      perform: hands.back,
    },
    { name: 'block', label: 'Leave the block of this word out of the text', key: 'F8', ...about, perform: hands.block },
    {
      name: 'area',
      label: 'Mark an area to be left out of the text',
      key: 'F6',
      subject: 'Tools',
      perform: hands.area,
    },
    { name: 'order', label: 'Order of the text on the page', key: 'F7', subject: 'Tools', perform: hands.order },
    { name: 'next', label: 'Next word', key: 'ArrowDown', subject: 'Step', repeats: true, perform: () => step(1) },
    { name: 'previous', label: 'Word before', key: 'ArrowUp', subject: 'Step', repeats: true, perform: () => step(-1) },
    { name: 'next too', label: 'Next word', key: 'ArrowRight', subject: 'Step', repeats: true, perform: () => step(1) },
    {
      name: 'previous too',
      label: 'Word before',
      key: 'ArrowLeft',
      subject: 'Step',
      repeats: true,
      perform: () => step(-1),
    },
    { name: 'scope', label: 'Whole stack or this page', key: 'F4', subject: 'Look', perform: hands.scope },
    { name: 'find', label: 'Find in the stack', key: '/', subject: 'Look', perform: hands.find },
    { name: 'undo', label: 'Undo', key: 'Ctrl+z', subject: 'Changes', perform: () => hands.turn('undo') },
    { name: 'redo', label: 'Redo', key: 'Ctrl+Shift+z', subject: 'Changes', perform: () => hands.turn('redo') },
    {
      name: 'put away',
      label: 'Put it away',
      key: 'Escape',
      subject: 'Tools',
      enabled: inHand,
      perform: hands.putAway,
    },
    {
      name: 'back',
      label: 'Back to all pages',
      key: 'Escape',
      subject: 'Go to',
      enabled: !inHand,
      perform: hands.leave,
    },
  ];
}
