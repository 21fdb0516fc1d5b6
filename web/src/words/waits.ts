/** What a stack waits for, in words: the most pressing first. */

import type { Stack } from '@/api/types';
import { open, type Step, stepsOf } from '@/engine/steps';
import { bytes, count, counted, day } from './figures';

export type Said = {
  /** Whether a person is waited for. */
  hand: boolean;
  text: string;
};

const are = (count: number) => (count === 1 ? 'is' : 'are');

export function waitsOf({ counts, waits, documents, bytes: size, closed }: Stack): Said[] {
  const said: Said[] = closed ? [{ hand: false, text: `closed ${day(closed.at)}` }] : [];
  // Nobody is waited for in a closed stack, but for what was sent.
  const hand = (text: string, sent = false) => (sent || !closed) && said.push({ hand: true, text });
  if (waits.stopped) hand(waits.stopped);
  if (waits.failed) hand(`${counted(waits.failed, 'page')} failed`);
  if (waits.expected) hand(`${counted(waits.expected, 'file')} did not come in`);
  if (waits.backs) hand(`${counted(waits.backs, 'back')} still to come`);
  if (waits.lost) hand(`${counted(waits.lost, 'delivered document')} lost since`, true);
  if (waits.undelivered) hand(`${counted(waits.undelivered, 'delivery', 'deliveries')} to decide on`, true);
  if (waits.review) hand(`${waits.about ? 'about ' : ''}${counted(waits.review, 'page')} to look at`);
  if (waits.held) said.push({ hand: false, text: `${counted(waits.held, 'page')} held up, tried again` });
  const step = stepAtHand(counts);
  if (step) said.push({ hand: false, text: stepWords(step) });
  if (!step && documents)
    said.push({ hand: false, text: `${counted(documents, 'document')}${size ? `, ${bytes(size)}` : ''}` });
  if (!step && !documents && counts.ready)
    said.push({ hand: false, text: `${counted(counts.ready, 'page')} ${are(counts.ready)} ready to bind` });
  if (!counts.pages && !waits.expected) said.push({ hand: false, text: 'no pages yet' });
  return said;
}

/** The step that is being worked on: the first that pages still have to pass. */
export function stepAtHand(counts: Stack['counts']): Step | undefined {
  const { pages, failed, opened } = counts;
  return [{ label: 'Opened', done: opened, of: pages - failed }, ...stepsOf(counts)].find(open);
}

function stepWords({ label, done, of }: Step): string {
  const how = `${count(done)} of ${count(of)}`;
  return label === 'Text read' ? `text read on ${how}` : `${how} ${label.toLowerCase()}`;
}
