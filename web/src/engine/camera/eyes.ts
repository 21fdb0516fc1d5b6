/** Whoever looks at frames: a worker beside the page, asked one thing at a time. */

import type { Asked, Told } from './eyesWorker';
import type { Answer } from './session';

export type Eyes = {
  see(frame: ImageBitmap, at: number): Promise<Answer>;
  check(frame: ImageBitmap): Promise<Answer>;
  take(): void;
  forget(): void;
  close(): void;
};

export function openEyes(): Eyes {
  const worker = new Worker(new URL('./eyesWorker.ts', import.meta.url), { type: 'module' });
  const waiting = new Map<number, (answer: Answer) => void>();
  let count = 0;
  worker.onmessage = ({ data }: MessageEvent<Told>) => {
    waiting.get(data.number)?.(data.answer);
    waiting.delete(data.number);
  };
  const asked = (make: (number: number) => Asked, frame: ImageBitmap) =>
    new Promise<Answer>((resolve) => {
      const number = count++;
      waiting.set(number, resolve);
      worker.postMessage(make(number), [frame]);
    });
  return {
    see: (frame, at) => asked((number) => ({ kind: 'see', number, frame, at }), frame),
    check: (frame) => asked((number) => ({ kind: 'check', number, frame }), frame),
    take: () => worker.postMessage({ kind: 'take' } satisfies Asked),
    forget: () => worker.postMessage({ kind: 'forget' } satisfies Asked),
    close: () => worker.terminate(),
  };
}
