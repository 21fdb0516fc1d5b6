/** What the camera at the table says, in sentences that say what to do. */

import type { Seen } from '@/engine/camera/camera';

const SIDES = ['left', 'top', 'right', 'bottom'] as const;

export function cameraWords({ stage, why, said, answer, refused, taken, taking }: Seen, automatic: boolean): string {
  if (stage === 'opening') return 'Opening the camera. The browser may ask whether it may be used.';
  if (stage === 'failed') return why;
  if (stage === 'closed' || !said) return 'The camera is about to show the table.';
  if (taking) return 'Taking the picture. Leave the page where it is.';
  if (refused) return 'It moved or was covered while it was taken, so that picture was not kept. Let it lie still.';
  switch (said) {
    case 'no page':
      return taken ? 'Lay the next page under the camera.' : 'Lay a page under the camera, all of it in the picture.';
    case 'no contrast':
      return 'The page cannot be told from the table. Lay it on something darker, or lighter.';
    case 'cut off': {
      const sides = (answer?.sides ?? []).map((side) => SIDES[side]).join(' and ');
      return `The page reaches the picture’s edge${sides ? `: ${sides}` : ''}. Move it in, or the camera further away.`;
    }
    case 'covered':
      return 'Something lies over an edge of the page, or the edge cannot be seen there.';
    case 'dark':
      return 'Too dark. Bring more light to the table.';
    case 'reflection':
      return 'Light wipes out part of the page. Turn the lamp away, or move the page.';
    case 'blurred':
      return 'Not sharp. Let the camera focus, or move it a little further away.';
    case 'moves':
      return 'Moving …';
    case 'steady':
      return automatic ? 'It lies well. Taken as soon as it has lain still.' : 'It lies well. Capture it.';
    case 'taken':
      return 'Taken. Lay the next page.';
    case 'same':
      return 'This looks like the page taken last. Capture it if it is another.';
  }
}

/** Whether something is wrong with what lies there. */
export const isWrong = (said: Seen['said']): boolean =>
  said === 'no contrast' ||
  said === 'cut off' ||
  said === 'covered' ||
  said === 'dark' ||
  said === 'reflection' ||
  said === 'blurred';
