/** What keys do where a page is looked at closely: zoom, and moving it under the eye. */

import type { Command } from './registry';

export type LookHands = {
  whole: () => void;
  trueSize: () => void;
  zoom: (factor: number) => void;
  /** Moves what is looked at by shares of what is seen. */
  pan: (across: number, down: number) => void;
};

const STEP = 0.2;

export function lookCommands({ whole, trueSize, zoom, pan }: LookHands): Command[] {
  const held = { subject: 'Look', repeats: true } as const;
  return [
    { name: 'whole', label: 'Whole page', key: '0', subject: 'Look', perform: whole },
    { name: 'true', label: '1:1', key: '1', subject: 'Look', perform: trueSize },
    { name: 'in', label: 'Zoom in', key: '+', ...held, perform: () => zoom(1.5) },
    { name: 'in too', label: 'Zoom in', key: '=', ...held, perform: () => zoom(1.5) },
    { name: 'out', label: 'Zoom out', key: '-', shown: '−', ...held, perform: () => zoom(1 / 1.5) },
    { name: 'pan right', label: 'Move the view', key: 'Ctrl+ArrowRight', ...held, perform: () => pan(STEP, 0) },
    { name: 'pan left', label: 'Move the view', key: 'Ctrl+ArrowLeft', ...held, perform: () => pan(-STEP, 0) },
    { name: 'pan down', label: 'Move the view', key: 'Ctrl+ArrowDown', ...held, perform: () => pan(0, STEP) },
    { name: 'pan up', label: 'Move the view', key: 'Ctrl+ArrowUp', ...held, perform: () => pan(0, -STEP) },
  ];
}

export type CurtainHands = { enabled: boolean; moveBy: (share: number) => void };

export function curtainCommands({ enabled, moveBy }: CurtainHands): Command[] {
  return [
    {
      name: 'curtain left',
      label: 'Curtain to the left',
      key: '[',
      subject: 'Look',
      enabled,
      repeats: true,
      perform: () => moveBy(-0.02),
    },
    {
      name: 'curtain right',
      label: 'Curtain to the right',
      key: ']',
      subject: 'Look',
      enabled,
      repeats: true,
      perform: () => moveBy(0.02),
    },
  ];
}

export type PlacesHands = { enabled: boolean; step: (by: 1 | -1) => void };

/** Places that differ, one after the other. */
export function placesCommands({ enabled, step }: PlacesHands): Command[] {
  const held = { subject: 'Look', enabled, repeats: true } as const;
  return [
    { name: 'place before', label: 'The difference before', key: '[', ...held, perform: () => step(-1) },
    { name: 'next place', label: 'The next difference', key: ']', ...held, perform: () => step(1) },
  ];
}
