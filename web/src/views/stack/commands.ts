/** What keys do around the pages of a stack, whatever of it is looked at. */

import type { Command } from '@/engine/keys/registry';

/** Where in a stack one is. */
export type Place = 'grid' | 'large' | 'bench' | 'intake' | 'bind';

/** The place that a way within a stack names. */
export function placeIn(rest: string): Place {
  if (rest === 'bind' || rest === 'intake') return rest;
  if (rest.startsWith('pages/')) return 'large';
  return rest.startsWith('bench/') ? 'bench' : 'grid';
}

export type Hands = {
  place: Place;
  /** Pages that are shown, pages in a row of the grid, pages that are cut. */
  shown: number;
  columns: number;
  cut: number;
  /** Whether there is a page to look at, and one that can be corrected. */
  some: boolean;
  correctable: boolean;
  by: (step: number, extend?: boolean) => void;
  chooseAll: () => void;
  forgetCut: () => void;
  look: () => void;
  correct: () => void;
  swapVersion: () => void;
  nextLayout: () => void;
  nextSide: () => void;
  /** Whether something failed, or waits to be tried again. */
  troubled: boolean;
  retry: () => void;
  turn: (way: 'undo' | 'redo') => void;
  /** Goes to a view of the stack; '' is the grid. */
  go: (view: string) => void;
  leave: () => void;
};

/** Commands of moving about; `arranging` are those on the chosen pages, which come before undo and redo. */
export function stackCommands(hands: Hands, arranging: readonly Command[]): Command[] {
  const { place, by, turn, go } = hands;
  const grid = place === 'grid';
  const work = place !== 'bind' && place !== 'intake';
  const step = (name: string, label: string, key: string, distance: number, enabled: boolean): Command[] => [
    { name, label, key, enabled, perform: () => by(distance) },
    {
      name: `${name} too`,
      label: `Choose up to the ${label.toLowerCase()}`,
      key: `Shift+${key}`,
      enabled: enabled && grid,
      perform: () => by(distance, true),
    },
  ];
  return [
    ...step('next', 'Next page', 'ArrowRight', 1, work),
    ...step('previous', 'Previous page', 'ArrowLeft', -1, work),
    ...step('down', 'Page below', 'ArrowDown', hands.columns, grid),
    ...step('up', 'Page above', 'ArrowUp', -hands.columns, grid),
    ...step('first', 'First page', 'Home', -hands.shown, grid),
    ...step('last', 'Last page', 'End', hands.shown, grid),
    { name: 'all', label: 'Choose all pages', key: 'Ctrl+a', enabled: grid, perform: hands.chooseAll },
    { name: 'open', label: 'Look at the page large', key: 'Enter', enabled: grid && hands.some, perform: hands.look },
    {
      name: 'bench',
      label: 'Correct the page on the bench',
      key: 'e',
      enabled: (grid || place === 'large') && hands.correctable,
      perform: hands.correct,
    },
    { name: 'version', label: 'Original or corrected', key: 'o', enabled: work, perform: hands.swapVersion },
    // On the bench the key of splitting is that of the line; while a page loads there it must not undo a split.
    ...(work ? arranging.filter(({ name }) => place !== 'bench' || name !== 'split') : []),
    { name: 'undo', label: 'Undo', key: 'z', enabled: work, perform: () => turn('undo') },
    { name: 'redo', label: 'Redo', key: 'y', enabled: work, perform: () => turn('redo') },
    { name: 'undo too', label: 'Undo', key: 'Ctrl+z', enabled: work, perform: () => turn('undo') },
    { name: 'redo too', label: 'Redo', key: 'Ctrl+Shift+z', enabled: work, perform: () => turn('redo') },
    { name: 'facing', label: 'Pages, leaves, or facing pages', key: 'f', enabled: grid, perform: hands.nextLayout },
    {
      name: 'side',
      label: 'Page, what can be done, or history beside it',
      key: 'h',
      enabled: work,
      perform: hands.nextSide,
    },
    {
      name: 'retry',
      label: 'Try again what failed',
      key: 'Shift+f',
      enabled: hands.troubled,
      perform: hands.retry,
    },
    { name: 'intake', label: 'Go to intake', key: 'n', enabled: work, perform: () => go('intake') },
    { name: 'bind', label: 'Go to binding', key: 'b', enabled: place !== 'bind', perform: () => go('bind') },
    {
      name: 'back',
      label: !grid ? 'Back to all pages' : hands.cut ? 'Forget what was cut' : 'Back to the shelf',
      key: 'Escape',
      perform: () => {
        if (!grid) go('');
        else if (hands.cut) hands.forgetCut();
        else hands.leave();
      },
    },
  ];
}
