/** What keys do on the bench, besides those that look at the page. */

import type { Tool } from '@/engine/bench/toolNames';
import type { Command } from '@/engine/keys/registry';

const STEP_DEG = 0.05;
const FAR = 10;

export type Hands = {
  tool: Tool;
  /** Whether the page is half of an image, has corrections of its own, and whether these are being used on others. */
  half: boolean;
  byHand: boolean;
  usingOn: boolean;
  take: (tool: Tool) => void;
  levelBy: (degrees: number) => void;
  moveLineBy: (px: number) => void;
  split: () => void;
  nextComparison: () => void;
  swapLoupe: () => void;
  swapRegions: () => void;
  useOn: () => void;
  asPlanned: () => void;
  turn: (way: 'undo' | 'redo') => void;
  step: (by: number) => void;
  nextSide: () => void;
  putAway: () => void;
};

export function benchCommands(hands: Hands): Command[] {
  const { tool, half, byHand, usingOn, take, levelBy, moveLineBy, turn, step } = hands;
  const nudge = (of: Tool, name: string, label: string, key: string, by: number, move: (by: number) => void) => [
    { name, label, key, enabled: tool === of, perform: () => move(by) },
    {
      name: `${name} far`,
      label: `${label}, ten times as far`,
      key: `Shift+${key}`,
      enabled: tool === of,
      perform: () => move(by * FAR),
    },
  ];
  return [
    { name: 'level', label: 'Level: draw along a text line', key: 't', perform: () => take('level') },
    { name: 'corners', label: 'Corners and sides of the page', key: 'q', perform: () => take('corners') },
    { name: 'borders', label: 'What is cleared of the borders', key: 'd', perform: () => take('borders') },
    { name: 'split', label: 'Split line between two pages', key: 's', perform: () => take('split') },
    {
      name: 'split here',
      label: 'Split here',
      key: 'Enter',
      enabled: tool === 'split' && !half,
      perform: hands.split,
    },
    ...nudge('level', 'tilt right', 'Tilt by 0.05°', 'ArrowRight', STEP_DEG, levelBy),
    ...nudge('level', 'tilt left', 'Tilt by −0.05°', 'ArrowLeft', -STEP_DEG, levelBy),
    ...nudge('split', 'line right', 'Split line to the right', 'ArrowRight', 1, moveLineBy),
    ...nudge('split', 'line left', 'Split line to the left', 'ArrowLeft', -1, moveLineBy),
    { name: 'compare', label: 'Side by side, curtain, or one image', key: 'c', perform: hands.nextComparison },
    { name: 'loupe', label: 'Loupe', key: 'm', perform: hands.swapLoupe },
    { name: 'regions', label: 'Regions: what lies on the page', key: 'Shift+o', perform: hands.swapRegions },
    { name: 'use on', label: 'Use its corrections on other pages', key: 'w', enabled: byHand, perform: hands.useOn },
    { name: 'planned', label: 'As planned', key: 'j', enabled: byHand, perform: hands.asPlanned },
    { name: 'undo', label: 'Undo', key: 'z', perform: () => turn('undo') },
    { name: 'redo', label: 'Redo', key: 'y', perform: () => turn('redo') },
    { name: 'undo too', label: 'Undo', key: 'Ctrl+z', perform: () => turn('undo') },
    { name: 'redo too', label: 'Redo', key: 'Ctrl+Shift+z', perform: () => turn('redo') },
    { name: 'page after', label: 'Next page', key: 'PageDown', perform: () => step(1) },
    { name: 'page before', label: 'Previous page', key: 'PageUp', perform: () => step(-1) },
    {
      name: 'side',
      label: 'Corrections, what was measured, or history beside it',
      key: 'h',
      perform: hands.nextSide,
    },
    {
      name: 'put tool away',
      label: 'Put the tool away',
      key: 'Escape',
      enabled: tool !== 'look' || usingOn,
      perform: hands.putAway,
    },
  ];
}
