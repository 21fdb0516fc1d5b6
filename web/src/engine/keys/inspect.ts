/** What keys do where findings are gone through. */

import type { Command } from './registry';

export type InspectHands = {
  /** Whether something is in hand, whether it has a page, whether that one is held aside, and what may be done. */
  some: boolean;
  page: boolean;
  aside: boolean;
  /** Whether its page failed: then it is deleted rather than held aside, for there is nothing to hold. */
  failed: boolean;
  may: { work: boolean; inspect: boolean; judge: boolean };
  /** Whether it can be put right somewhere, and where. */
  remedy: string;
  fine: () => void;
  putRight: () => void;
  holdAside: () => void;
  recapture: () => void;
  remove: () => void;
  step: (by: number) => void;
  turn: (way: 'undo' | 'redo') => void;
  sample: () => void;
  leave: () => void;
};

export function inspectCommands(hands: InspectHands): Command[] {
  const { some, page, aside, failed, may, remedy, step, turn } = hands;
  const about = { subject: 'Mark' } as const;
  const held = { subject: 'Step', repeats: true, enabled: some } as const;
  return [
    { name: 'fine', label: 'Fine as it is', key: 'f', ...about, enabled: some && may.judge, perform: hands.fine },
    {
      name: 'put right',
      label: remedy || 'Put right',
      key: 'e',
      ...about,
      enabled: page && may.work && remedy !== '',
      perform: hands.putRight,
    },
    {
      name: 'hold aside',
      label: aside ? 'Back into the stack' : 'Hold aside',
      key: 'a',
      ...about,
      enabled: page && may.work && !failed,
      perform: hands.holdAside,
    },
    {
      name: 'delete',
      label: 'Delete',
      key: 'Delete',
      ...about,
      enabled: page && may.work && failed,
      perform: hands.remove,
    },
    {
      name: 'recapture',
      label: 'Recapture',
      key: 'g',
      ...about,
      enabled: page && may.inspect,
      perform: hands.recapture,
    },
    { name: 'next finding', label: 'Next', key: 'ArrowRight', ...held, perform: () => step(1) },
    { name: 'finding before', label: 'Back', key: 'ArrowLeft', ...held, perform: () => step(-1) },
    { name: 'finding before too', label: 'Back', key: 'Backspace', ...held, perform: () => step(-1) },
    { name: 'undo', label: 'Undo', key: 'z', subject: 'Changes', enabled: may.work, perform: () => turn('undo') },
    { name: 'redo', label: 'Redo', key: 'y', subject: 'Changes', enabled: may.work, perform: () => turn('redo') },
    { name: 'sample', label: 'Sample and signature', key: 's', subject: 'Go to', perform: hands.sample },
    { name: 'leave inspection', label: 'Back to all pages', key: 'Escape', subject: 'Go to', perform: hands.leave },
  ];
}
