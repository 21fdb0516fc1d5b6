import { expect, it } from 'vitest';
import { lastNumber } from './names';
import { reducedSize, Session } from './session';

const [W, H] = [400, 225];
type Box = readonly [number, number, number, number];

/** A frame of a dark table with a light page; `seed` tells one page's pattern from another's. */
function frame(page?: Box, seed = 0) {
  const data = new Uint8ClampedArray(W * H * 4);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const at = (y * W + x) * 4;
      const inside = page && x >= page[0] && x < page[2] && y >= page[1] && y < page[3];
      // Lines of writing, as long as the page's number has it.
      const line =
        inside &&
        seed &&
        (y - page[1]) % 20 >= 14 &&
        x - page[0] > 12 &&
        x - page[0] < 20 + ((seed * 53 + y * 7) % 110);
      const tone = inside ? (line ? 90 : 230) : 60;
      data.set([tone, tone, inside ? tone : 50, 255], at);
    }
  return { data, width: W, height: H };
}

const PAGE: Box = [120, 30, 280, 195];
const WHOLE = () => frame(PAGE);
const LIES = frame(PAGE, 1);

/** So many frames, a quarter of a second apart, from a moment on: the fifth is taken. */
function seen(session: Session, picture: ReturnType<typeof frame>, count: number, from: number) {
  return Array.from({ length: count }, (_, at) => session.see(picture, WHOLE, (from + at) / 4));
}

it('finds the corners, as shares of the frame’s sides', () => {
  const { quad, confidence } = new Session().see(frame(PAGE), WHOLE, 0);
  expect(confidence).toBe(1);
  const px = quad?.map(([x, y]) => [Math.round(x * W), Math.round(y * H)]);
  for (const [at, corner] of [
    [120, 30],
    [280, 30],
    [280, 195],
    [120, 195],
  ].entries())
    for (const axis of [0, 1]) expect(Math.abs((px?.[at]?.[axis] ?? 0) - (corner[axis] ?? 0))).toBeLessThanOrEqual(1);
});

it('takes a page that lies still, once; the next by itself; and one taken by hand not again', {
  timeout: 20_000,
}, () => {
  const session = new Session();
  const first = seen(session, LIES, 6, 0);
  expect(first.filter(({ release }) => release)).toHaveLength(1);
  expect(first.at(-1)?.said).toBe('taken');
  const second = seen(session, frame(PAGE, 2), 6, 6);
  expect(second.filter(({ release }) => release)).toHaveLength(1);
  session.see(frame(PAGE, 3), WHOLE, 3);
  session.take();
  expect(seen(session, frame(PAGE, 3), 6, 13).some(({ release }) => release)).toBe(false);
});

it('takes again what came to nothing', () => {
  const session = new Session();
  seen(session, LIES, 6, 0);
  session.forget();
  expect(seen(session, LIES, 4, 6).filter(({ release }) => release)).toHaveLength(1);
});

it('judges one picture by itself', () => {
  expect(new Session().judge(frame(), WHOLE).said).toBe('no page');
  expect(new Session().judge(frame(PAGE), () => frame(PAGE)).said).toBe('steady');
  expect(new Session().judge(frame([0, 30, 290, 195]), WHOLE)).toMatchObject({ said: 'cut off', sides: [0] });
});

it('never enlarges a frame', () => {
  expect(reducedSize(1280, 720, 400)).toEqual([400, 225]);
  expect(reducedSize(720, 1280, 400)).toEqual([225, 400]);
  expect(reducedSize(320, 200, 400)).toEqual([320, 200]);
});

it('goes on from the last number of a name', () => {
  const there = ['page 001.jpg', 'page 012.jpg', 'pages 099.jpg', 'page 3b.jpg', 'other 500.jpg'].map((source) => ({
    source,
  }));
  expect(lastNumber(there, 'page')).toBe(12);
  expect(lastNumber(there, 'log')).toBe(0);
});
