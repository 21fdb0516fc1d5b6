/** What keys do on the bench, besides those that look at the page. */

import type { Tool } from '@/engine/bench/toolNames';
import type { Command, Subject } from './registry';

const STEP_DEG = 0.05;
const FAR = 10;

export type BenchHands = {
  tool: Tool;
  /** Whether the page is half of an image, has corrections of its own, and whether these are being applied to others. */
  half: boolean;
  byHand: boolean;
  applying: boolean;
  take: (tool: Tool) => void;
  levelBy: (degrees: number) => void;
  moveLineBy: (px: number) => void;
  split: () => void;
  nextComparison: () => void;
  swapLoupe: () => void;
  swapRegions: () => void;
  apply: () => void;
  asTreated: () => void;
  turn: (way: 'undo' | 'redo') => void;
  step: (by: number) => void;
  nextSide: () => void;
  putAway: () => void;
  leave: () => void;
};

export function benchCommands(hands: BenchHands): Command[] {
  const { tool, half, byHand, applying, take, levelBy, moveLineBy, turn, step } = hands;
  const inHand = tool !== 'move' || applying;
  const nudge = (
    of: Tool,
    name: string,
    label: string,
    key: string,
    by: number,
    move: (by: number) => void,
  ): Command[] => {
    const about = { subject: 'Tools', enabled: tool === of, repeats: true } as const;
    return [
      { name, label, key, ...about, perform: () => move(by) },
      {
        name: `${name} far`,
        label: `${label}, ten times as far`,
        key: `Shift+${key}`,
        ...about,
        perform: () => move(by * FAR),
      },
    ];
  };
  const plain = (name: string, label: string, key: string, subject: Subject, perform: () => void, enabled = true) => ({
    name,
    label,
    key,
    subject,
    enabled,
    perform,
  });
  return [
    plain('level', 'Level: draw along a text line', 't', 'Tools', () => take('level')),
    plain('corners', 'Corners and sides of the page', 'q', 'Tools', () => take('corners')),
    plain('borders', 'What is cleared of the borders', 'd', 'Tools', () => take('borders')),
    plain('split', 'Split line between two pages', 's', 'Tools', () => take('split')),
    plain('split here', 'Split here', 'Enter', 'Tools', hands.split, tool === 'split' && !half),
    ...nudge('level', 'tilt right', 'Tilt by 0.05°', 'ArrowRight', STEP_DEG, levelBy),
    ...nudge('level', 'tilt left', 'Tilt by −0.05°', 'ArrowLeft', -STEP_DEG, levelBy),
    ...nudge('split', 'line right', 'Split line to the right', 'ArrowRight', 1, moveLineBy),
    ...nudge('split', 'line left', 'Split line to the left', 'ArrowLeft', -1, moveLineBy),
    plain('compare', 'Beside, curtain, single, or difference', 'c', 'Look', hands.nextComparison),
    plain('loupe', 'Loupe', 'm', 'Look', hands.swapLoupe),
    plain('regions', 'Regions: what lies on the page', 'Shift+o', 'Look', hands.swapRegions),
    plain('apply', 'Apply its corrections to other pages', 'w', 'Changes', hands.apply, byHand),
    plain('as treated', 'Back to the treatment', 'j', 'Changes', hands.asTreated, byHand),
    plain('undo', 'Undo', 'z', 'Changes', () => turn('undo')),
    plain('redo', 'Redo', 'y', 'Changes', () => turn('redo')),
    plain('undo too', 'Undo', 'Ctrl+z', 'Changes', () => turn('undo')),
    plain('redo too', 'Redo', 'Ctrl+Shift+z', 'Changes', () => turn('redo')),
    { ...plain('page after', 'Next page', 'PageDown', 'Step', () => step(1)), repeats: true },
    { ...plain('page before', 'Previous page', 'PageUp', 'Step', () => step(-1)), repeats: true },
    { ...plain('next', 'Next page', 'ArrowRight', 'Step', () => step(1), tool === 'move'), repeats: true },
    { ...plain('previous', 'Previous page', 'ArrowLeft', 'Step', () => step(-1), tool === 'move'), repeats: true },
    plain('side', 'Correct, Page or History beside the page', 'h', 'Look', hands.nextSide),
    plain('put tool away', 'Put the tool away', 'Escape', 'Tools', hands.putAway, inHand),
    plain('back', 'Back to all pages', 'Escape', 'Go to', hands.leave, !inHand),
  ];
}
