/** Looks at frames beside the page, so that the page stays quick. */

import { type Answer, type Picture, REDUCED_PX, reducedSize, Session } from './session';

export type Asked =
  | { kind: 'see'; number: number; frame: ImageBitmap; at: number }
  | { kind: 'check'; number: number; frame: ImageBitmap }
  | { kind: 'take' }
  | { kind: 'forget' };
export type Told = { number: number; answer: Answer };

const session = new Session();

/** What a canvas of that size shows of a frame. */
function drawn(frame: ImageBitmap, width: number, height: number): Picture {
  const canvas = new OffscreenCanvas(width, height);
  const paint = canvas.getContext('2d', { willReadFrequently: true });
  if (!paint) throw new Error('This browser draws nothing beside the page.');
  paint.imageSmoothingQuality = 'high';
  paint.drawImage(frame, 0, 0, width, height);
  return paint.getImageData(0, 0, width, height);
}

self.onmessage = ({ data: asked }: MessageEvent<Asked>) => {
  if (asked.kind === 'take') return session.take();
  if (asked.kind === 'forget') return session.forget();
  const { frame, number } = asked;
  const reduced = drawn(frame, ...reducedSize(frame.width, frame.height, REDUCED_PX));
  const sharp = () => drawn(frame, frame.width, frame.height);
  const answer = asked.kind === 'see' ? session.see(reduced, sharp, asked.at) : new Session().judge(reduced, sharp);
  frame.close();
  self.postMessage({ number, answer } satisfies Told);
};
