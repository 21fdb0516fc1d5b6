/** What keys do where a sample is drawn, gone through, decided and signed for. */

import type { Worst } from '@/api/types';
import type { Command } from './registry';

export type PlanHands = {
  may: boolean;
  /** What can be done next; undefined where it cannot. */
  draw: (() => void) | undefined;
  sign: (() => void) | undefined;
  leave: () => void;
};

/** Before a sample is drawn, and after it was decided. */
export function planCommands({ may, draw, sign, leave }: PlanHands): Command[] {
  return [
    decision('draw', 'Draw the sample', 'd', may, draw),
    decision('sign', 'Sign for this stack', 'Shift+s', may, sign),
    leaving(leave),
  ];
}

export type GoingHands = {
  /** Whether a page of the sample is in hand, and whether somebody may say how good it is. */
  page: boolean;
  may: boolean;
  say: (worst: Worst) => void;
  takeBack: () => void;
  step: (by: number) => void;
  /** What the plan allows; undefined where it does not. */
  accept: (() => void) | undefined;
  giveBack: (() => void) | undefined;
  whole: (() => void) | undefined;
  leave: () => void;
};

export const CLASS_KEYS: Record<Exclude<Worst, ''>, string> = { minor: 'n', major: 'm', critical: 'c' };

/** While a sample is gone through. */
export function goingCommands(hands: GoingHands): Command[] {
  const { page, may, say, step } = hands;
  const said = { subject: 'Mark', enabled: page && may } as const;
  const moved = { subject: 'Step', repeats: true, enabled: page } as const;
  return [
    { name: 'good', label: 'Good', key: 'f', ...said, perform: () => say('') },
    { name: 'minor', label: 'Minor defect', key: CLASS_KEYS.minor, ...said, perform: () => say('minor') },
    { name: 'major', label: 'Major defect', key: CLASS_KEYS.major, ...said, perform: () => say('major') },
    { name: 'critical', label: 'Critical defect', key: CLASS_KEYS.critical, ...said, perform: () => say('critical') },
    { name: 'take back', label: 'Take back what was said', key: 'z', ...said, perform: hands.takeBack },
    { name: 'next drawn', label: 'Next page of the sample', key: 'ArrowRight', ...moved, perform: () => step(1) },
    { name: 'drawn before', label: 'Page before', key: 'ArrowLeft', ...moved, perform: () => step(-1) },
    decision('accept', 'Accept the lot', 'd', may, hands.accept),
    decision('give back', 'Back to the technician', 'r', may, hands.giveBack),
    decision('go through all', 'Go through all pages', 'w', may, hands.whole),
    leaving(hands.leave),
  ];
}

function decision(name: string, label: string, key: string, may: boolean, perform: (() => void) | undefined): Command {
  return {
    name,
    label,
    key,
    subject: 'Mark',
    enabled: perform !== undefined && may,
    perform: perform ?? (() => undefined),
  };
}

const leaving = (leave: () => void): Command => ({
  name: 'leave sample',
  label: 'Back to the findings',
  key: 'Escape',
  subject: 'Go to',
  perform: leave,
});
