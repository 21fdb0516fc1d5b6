/** What keys do where a sample is drawn, gone through, decided and signed for. */

import type { Worst } from '@/api/types';
import type { Command } from './registry';

export type SampleHands = {
  /** Whether a page of the sample is in hand, and whether somebody may say how good it is. */
  page: boolean;
  may: boolean;
  say: (worst: Worst) => void;
  takeBack: () => void;
  step: (by: number) => void;
  /** What the plan allows now, and what can be done next. */
  draw: (() => void) | undefined;
  accept: (() => void) | undefined;
  giveBack: (() => void) | undefined;
  whole: (() => void) | undefined;
  sign: (() => void) | undefined;
  leave: () => void;
};

export const CLASS_KEYS: Record<Exclude<Worst, ''>, string> = { minor: 'n', major: 'm', critical: 'c' };

export function sampleCommands(hands: SampleHands): Command[] {
  const { page, may, say, step } = hands;
  const said = { subject: 'Mark', enabled: page && may } as const;
  const moved = { subject: 'Step', repeats: true, enabled: page } as const;
  const does = (name: string, label: string, key: string, perform: (() => void) | undefined): Command => ({
    name,
    label,
    key,
    subject: 'Mark',
    enabled: perform !== undefined && may,
    perform: perform ?? (() => undefined),
  });
  return [
    { name: 'good', label: 'Good', key: 'f', ...said, perform: () => say('') },
    { name: 'minor', label: 'Minor defect', key: CLASS_KEYS.minor, ...said, perform: () => say('minor') },
    { name: 'major', label: 'Major defect', key: CLASS_KEYS.major, ...said, perform: () => say('major') },
    { name: 'critical', label: 'Critical defect', key: CLASS_KEYS.critical, ...said, perform: () => say('critical') },
    { name: 'take back', label: 'Take back what was said', key: 'z', ...said, perform: hands.takeBack },
    { name: 'next drawn', label: 'Next page of the sample', key: 'ArrowRight', ...moved, perform: () => step(1) },
    { name: 'drawn before', label: 'Page before', key: 'ArrowLeft', ...moved, perform: () => step(-1) },
    does('draw', 'Draw the sample', 'd', hands.draw),
    does('accept', 'Accept', 'd', hands.accept),
    does('give back', 'Back to the technician', 'r', hands.giveBack),
    does('go through all', 'Go through all pages', 'w', hands.whole),
    does('sign', 'Sign for this stack', 'Shift+s', hands.sign),
    { name: 'leave sample', label: 'Back to the findings', key: 'Escape', subject: 'Go to', perform: hands.leave },
  ];
}
