/** What a stack waits for, in words: the most pressing first. */

import type { Stack } from '@/api/types';
import { bytes, counted, day } from './figures';

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
  const open = counts.pages - counts.ready - counts.aside - counts.failed;
  if (open) said.push({ hand: false, text: stepOf(counts) });
  if (!open && documents)
    said.push({ hand: false, text: `${counted(documents, 'document')}${size ? `, ${bytes(size)}` : ''}` });
  if (!open && !documents && counts.ready)
    said.push({ hand: false, text: `${counted(counts.ready, 'page')} ${are(counts.ready)} ready to bind` });
  if (!counts.pages && !waits.expected) said.push({ hand: false, text: 'no pages yet' });
  return said;
}

/** How far the step is that is being worked on. */
function stepOf({ pages, opened, measured, corrected, read }: Stack['counts']): string {
  const of = `of ${pages.toLocaleString('en')}`;
  if (opened < pages) return `${opened} ${of} opened`;
  if (measured < pages) return `${measured} ${of} measured`;
  if (corrected < pages) return `${corrected} ${of} corrected`;
  return `text read on ${read} ${of}`;
}
