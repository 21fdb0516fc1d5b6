/** What keys do in Intake: each is there only while what it acts on is seen. */

import type { Command, Subject } from './registry';

export type IntakeHands = {
  /** The slip can be captured now. */
  ready: boolean;
  capture: () => void;
  /** The glass is before one's eyes, and whether it is being looked at. */
  glass: boolean;
  /** The camera is. */
  camera: boolean;
  /** Whether it releases by itself. */
  byItself: () => void;
  looking: boolean;
  look: () => void;
  newFrame: () => void;
  /** A frame can be looked at closely, or is. */
  closer: boolean;
  lookCloser: () => void;
  turnView: () => void;
  /** A load is before one's eyes. */
  load: 'none' | 'open' | 'stopped' | 'over';
  goOn: () => void;
  /** Its images come from a feeder, sheet after sheet. */
  feeding: boolean;
  pause: () => void;
  keep: () => void;
  discard: () => void;
  next: () => void;
  /** A station was found that can be put on the list. */
  found: boolean;
  addFound: () => void;
  addFiles: () => void;
  addFolder: () => void;
  /** Files on their way are before one's eyes. */
  files: boolean;
  leaveFiles: () => void;
};

export function intakeCommands(hands: IntakeHands): Command[] {
  const command = (name: string, label: string, key: string, enabled: boolean, perform: () => void): Command => ({
    name,
    label,
    key,
    subject: 'Capture' satisfies Subject,
    enabled,
    perform,
  });
  const { load, glass, camera } = hands;
  return [
    command('capture', 'Capture', 'c', hands.ready, hands.capture),
    command('look', 'First look at the glass', 'l', glass && !hands.looking, hands.look),
    command('frame', 'A new frame on the glass', 'm', glass, hands.newFrame),
    command('closer', 'Look closer at the frame, or at the whole glass', 'i', hands.closer, hands.lookCloser),
    command('turn view', 'Turn the view', 't', glass || camera, hands.turnView),
    command('by itself', 'Capture by itself, or not', 'a', camera, hands.byItself),
    command('go on', 'Go on with the load', 'g', load === 'stopped', hands.goOn),
    command('pause', 'Pause the load', 'p', load === 'open' && hands.feeding, hands.pause),
    command('keep', 'End the load, keep what came', 'k', load === 'open' || load === 'stopped', hands.keep),
    command('discard', 'Discard this load', 'Shift+x', load === 'open' || load === 'stopped', hands.discard),
    command('next load', 'Ready for the next', 'n', load === 'over', hands.next),
    command('add station', 'Add the station that was found', 'o', hands.found, hands.addFound),
    command('add files', 'Add files …', 'f', true, hands.addFiles),
    command('add folder', 'Add a folder …', 'd', true, hands.addFolder),
    command('leave files', 'Back to the stations', 's', hands.files, hands.leaveFiles),
  ];
}
