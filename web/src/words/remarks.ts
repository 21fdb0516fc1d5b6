/** What is said of a load while its paper is at hand: what was seen, and what to do about it. */

import type { Run } from '@/api/types';
import { PICTURE_PPI, type Remark } from '@/engine/capture/remarks';
import { counted } from './figures';
import { tiltWords } from './runs';

/** So many places are named; beyond that it is counted. */
const NAMED = 4;

export function remarkWords(remark: Remark, { settings }: Run): string {
  if (remark.kind === 'guides') return tiltWords(remark.tilts);
  if (remark.kind === 'no colour')
    return `No colour was seen on ${counted(remark.pages, 'page')}. Captured in grey they would be smaller, and quicker.`;
  if (remark.kind === 'unnamed')
    return `Files are named “${settings.name}”, as the line above has it. Give them a name of their own before the next load.`;
  const { places } = remark;
  const noun = settings.source === 'feeder' ? 'Sheet' : 'Image';
  const one = places.length === 1;
  const who = one ? `${noun} ${places[0]}` : `${noun}s ${listed(places)}`;
  switch (remark.kind) {
    case 'longer':
      return `${who} ${one ? 'is' : 'are'} longer than the others. Look whether two went in one over the other.`;
    case 'askew':
      return `${who} came in askew. Look whether ${one ? 'it is' : 'they are'} bent, and lay ${one ? 'it' : 'them'} in again.`;
    case 'missing corner':
      return `${who} ${one ? 'has' : 'have'} a corner folded or missing. Unfold what is folded, and capture ${one ? 'it' : 'them'} again.`;
    case 'coarse picture':
      return `${who} ${one ? 'shows' : 'show'} a picture, captured at ${settings.ppi} ppi as text is. Pictures want ${PICTURE_PPI} ppi or more.`;
  }
}

function listed(places: readonly number[]): string {
  if (places.length > NAMED) return `${places.slice(0, NAMED).join(', ')} and ${places.length - NAMED} more`;
  return `${places.slice(0, -1).join(', ')} and ${places.at(-1)}`;
}
