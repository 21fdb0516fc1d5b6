/** What keys do around the pages of a stack, whatever of it is looked at. */

import type { Command } from './registry';

/** Where in a stack one is. */
export type Place =
  | 'grid'
  | 'large'
  | 'bench'
  | 'text'
  | 'inspect'
  | 'sample'
  | 'intake'
  | 'bind'
  | 'describe'
  | 'dispatch';

/** The place that a way within a stack names. */
export function placeIn(rest: string): Place {
  if (rest === 'bind' || rest === 'intake' || rest === 'sample' || rest === 'dispatch' || rest === 'describe')
    return rest;
  if (rest.startsWith('pages/')) return 'large';
  if (rest === 'text' || rest.startsWith('text/')) return 'text';
  if (rest === 'inspect' || rest.startsWith('inspect/')) return 'inspect';
  return rest.startsWith('bench/') ? 'bench' : 'grid';
}

export type How = 'alone' | 'run' | 'walk';
export type StackHands = {
  place: Place;
  /** Pages that are shown, pages in a row of the grid, pages that are cut. */
  shown: number;
  columns: number;
  cut: number;
  /** Whether there is a page to look at, and one that can be corrected. */
  some: boolean;
  correctable: boolean;
  by: (step: number, how: How) => void;
  chooseAll: () => void;
  toggle: () => void;
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

/** Commands of moving about. On the bench, arrows, undo and Escape are the bench's own: see there. */
export function stackCommands(hands: StackHands): Command[] {
  const { place, by, turn, go } = hands;
  const grid = place === 'grid';
  const pages = grid || place === 'large';
  const bench = place === 'bench';
  // Where text is put right letters are typed into it.
  const typed = place === 'text';
  const inspected = place === 'inspect' || place === 'sample';
  const step = (name: string, label: string, key: string, distance: number, enabled: boolean): Command[] => [
    { name, label, key, subject: 'Step', enabled, repeats: true, perform: () => by(distance, 'alone') },
    {
      name: `${name} too`,
      label: 'Extend the choice',
      key: `Shift+${key}`,
      subject: 'Choose',
      enabled: enabled && grid,
      repeats: true,
      perform: () => by(distance, 'run'),
    },
    {
      name: `${name} walk`,
      label: 'Go on, and leave the choice as it is',
      key: `Ctrl+${key}`,
      subject: 'Choose',
      enabled: enabled && grid,
      repeats: true,
      perform: () => by(distance, 'walk'),
    },
  ];
  return [
    ...step('next', 'Next page', 'ArrowRight', 1, pages),
    ...step('previous', 'Previous page', 'ArrowLeft', -1, pages),
    ...step('down', 'Page below', 'ArrowDown', hands.columns, grid),
    ...step('up', 'Page above', 'ArrowUp', -hands.columns, grid),
    ...step('first', 'First page', 'Home', -hands.shown, grid),
    ...step('last', 'Last page', 'End', hands.shown, grid),
    {
      name: 'all',
      label: 'Choose all pages',
      key: 'Ctrl+a',
      subject: 'Choose',
      enabled: grid,
      perform: hands.chooseAll,
    },
    {
      name: 'toggle',
      label: 'Add this page to the choice, or take it out',
      key: ' ',
      subject: 'Choose',
      enabled: grid && hands.some,
      perform: hands.toggle,
    },
    {
      name: 'open',
      label: 'Look at the page large',
      key: 'Enter',
      subject: 'Look',
      enabled: grid && hands.some,
      perform: hands.look,
    },
    {
      name: 'bench',
      label: 'Correct the page on the bench',
      key: 'e',
      subject: 'Go to',
      enabled: pages && hands.correctable,
      perform: hands.correct,
    },
    {
      name: 'version',
      label: 'Original or corrected',
      key: 'o',
      subject: 'Look',
      enabled: pages || bench,
      perform: hands.swapVersion,
    },
    { name: 'undo', label: 'Undo', key: 'z', subject: 'Changes', enabled: pages, perform: () => turn('undo') },
    { name: 'redo', label: 'Redo', key: 'y', subject: 'Changes', enabled: pages, perform: () => turn('redo') },
    { name: 'undo too', label: 'Undo', key: 'Ctrl+z', subject: 'Changes', enabled: pages, perform: () => turn('undo') },
    {
      name: 'redo too',
      label: 'Redo',
      key: 'Ctrl+Shift+z',
      subject: 'Changes',
      enabled: pages,
      perform: () => turn('redo'),
    },
    {
      name: 'facing',
      label: 'Pages, leaves, or facing pages',
      key: 'f',
      subject: 'Look',
      enabled: grid,
      perform: hands.nextLayout,
    },
    {
      name: 'side',
      label: 'Page, Arrange, Checks or History beside the pages',
      key: 'h',
      subject: 'Look',
      enabled: pages,
      perform: hands.nextSide,
    },
    {
      name: 'retry',
      label: 'Try again what failed',
      key: 'Shift+f',
      subject: 'Changes',
      enabled: hands.troubled && !typed,
      perform: hands.retry,
    },
    {
      name: 'intake',
      label: 'Intake',
      key: 'n',
      subject: 'Go to',
      enabled: pages || bench,
      perform: () => go('intake'),
    },
    { name: 'pages', label: 'All pages', key: '', subject: 'Go to', enabled: !grid, perform: () => go('') },
    {
      name: 'bind',
      label: 'Bind',
      key: 'b',
      subject: 'Go to',
      enabled: place !== 'bind' && !typed,
      perform: () => go('bind'),
    },
    {
      name: 'describe all',
      label: 'Describe all documents in a table',
      key: 'Shift+m',
      subject: 'Go to',
      enabled: place !== 'describe' && !typed,
      perform: () => go('describe'),
    },
    {
      name: 'dispatch',
      label: 'Dispatch',
      key: 'Shift+j',
      subject: 'Go to',
      enabled: place !== 'dispatch' && !typed,
      perform: () => go('dispatch'),
    },
    { name: 'text', label: 'Text', key: 't', subject: 'Go to', enabled: pages || inspected, perform: () => go('text') },
    {
      name: 'inspect',
      label: 'Inspect',
      key: 'q',
      subject: 'Go to',
      enabled: pages || place === 'sample',
      perform: () => go('inspect'),
    },
    {
      name: 'back',
      label: !grid ? 'Back to all pages' : hands.cut ? 'Forget what was cut' : 'Back to the shelf',
      key: 'Escape',
      subject: 'Go to',
      enabled: !bench && !typed && !inspected,
      perform: () => {
        if (!grid) go('');
        else if (hands.cut) hands.forgetCut();
        else hands.leave();
      },
    },
  ];
}

export const NEXT_LAYOUT = { pages: 'leaves', leaves: 'facing', facing: 'pages' } as const;

/** Where a single page is looked at, nothing is cut, put elsewhere, brought into order or deleted: what that does would not be seen. */
const ON_ONE = new Set<Command['subject']>(['Turn', 'Hold', 'Mark']);

/** What can be done to the chosen pages in a place. On the bench the key of splitting is that of the line. */
export function arrangingIn<C extends Command>(place: Place, commands: readonly C[]): C[] {
  if (place === 'grid') return [...commands];
  if (place !== 'large' && place !== 'bench') return [];
  return commands.filter(
    ({ subject, name }) => ON_ONE.has(subject) && name !== 'delete' && (place === 'large' || name !== 'split'),
  );
}
