import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { cameraWords } from '@/words/camera';
import { Camera, type Shot } from './camera';
import type { Answer } from './session';
import { NoCamera, type Source } from './source';

const answer = (said: Answer['said'], release = false): Answer => ({
  said,
  quad: undefined,
  confidence: 1,
  sides: [],
  release,
});
const settle = async () => {
  for (let at = 0; at < 12; at++) await Promise.resolve();
};

/** A camera whose frames come when they are let come. */
function table({ checked = 'steady' as Answer['said'] } = {}) {
  let come: ((value?: undefined) => void) | undefined;
  let ended = () => {};
  const hands = { answers: [] as Answer[], at: 0, forgot: 0, took: 0, closed: 0, keep: vi.fn(async (_: Shot) => {}) };
  const picture = vi.fn(async () => new Blob(['picture']));
  const source = {
    video: {} as HTMLVideoElement,
    name: 'Table camera',
    others: [],
    frame: async () => ({}) as ImageBitmap,
    next: () => new Promise<void>((resolve) => (come = () => resolve())),
    picture,
    onEnd: (call: () => void) => (ended = call),
    close: () => (hands.closed += 1),
  } as unknown as Source;
  const open = vi.fn(async () => source);
  const camera = new Camera({
    open,
    eyes: () => ({
      see: async () => hands.answers.shift() ?? answer('no page'),
      check: async () => answer(checked),
      take: () => (hands.took += 1),
      forget: () => (hands.forgot += 1),
      close: () => undefined,
    }),
    reduced: async () => ({}) as ImageBitmap,
    now: () => hands.at,
  });
  camera.keep = hands.keep;
  const frame = async (next: Answer, at = hands.at + 0.3) => {
    hands.at = at;
    hands.answers.push(next);
    come?.();
    await settle();
  };
  return { camera, hands, frame, open, picture, end: () => ended() };
}

beforeEach(() => vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }));
afterEach(() => vi.useRealTimers());

describe('the camera at the table', () => {
  it('takes a picture by itself and sends it', async () => {
    const { camera, hands, frame } = table();
    await camera.open();
    await frame(answer('taken', true));
    expect(camera.get()).toMatchObject({ stage: 'open', taken: 1, said: 'taken', taking: false });
    expect(hands.keep.mock.calls[0]?.[0]).toMatchObject({ number: 1 });
  });

  it('takes nothing by itself when it is not to, and everything by hand', async () => {
    const { camera, hands, frame } = table({ checked: 'cut off' });
    camera.automatic = false;
    await camera.open();
    await frame(answer('taken', true));
    expect(camera.get()).toMatchObject({ taken: 0, said: 'steady' });
    expect(hands.forgot).toBe(1);
    await camera.release();
    expect(camera.get().taken).toBe(1);
    expect(hands.took).toBe(1);
  });

  it('keeps no picture in which the page moved after all, says so, and takes it again', async () => {
    const { camera, hands, frame } = table({ checked: 'covered' });
    await camera.open();
    await frame(answer('taken', true));
    expect(camera.get()).toMatchObject({ taken: 0, refused: 'covered' });
    expect(hands.forgot).toBe(1);
    expect(hands.keep).not.toHaveBeenCalled();
    expect(cameraWords(camera.get(), true)).toContain('not kept');
  });

  it('holds what cannot be sent, in order, until it can', async () => {
    const { camera, hands, frame } = table();
    hands.keep.mockRejectedValueOnce(new Error('gone')).mockRejectedValueOnce(new Error('gone'));
    await camera.open();
    await frame(answer('taken', true));
    await frame(answer('taken', true));
    expect(camera.get()).toMatchObject({ taken: 2, held: 2, heldFor: 'gone' });
    // Whoever sends them again is at another stack by now.
    const elsewhere = vi.fn(async () => {});
    camera.keep = elsewhere;
    camera.again();
    await settle();
    expect(elsewhere).not.toHaveBeenCalled();
    expect(camera.get().held).toBe(0);
    expect(hands.keep.mock.calls.map(([shot]) => shot.number)).toEqual([1, 2, 1, 2]);
  });

  it('says a thing only once it has been so for a moment', async () => {
    const { camera, frame } = table();
    await camera.open();
    await frame(answer('no page'), 1);
    await frame(answer('moves'), 1.1);
    expect(camera.get().said).toBe('no page');
    await frame(answer('moves'), 1.34);
    expect(camera.get().said).toBe('no page');
    await frame(answer('moves'), 1.35);
    expect(camera.get().said).toBe('moves');
  });

  it('says why there is none, and what to do', async () => {
    const { camera, open } = table();
    open.mockRejectedValueOnce(new NoCamera('Another program is using the camera.'));
    await camera.open();
    expect(camera.get()).toMatchObject({ stage: 'failed', why: 'Another program is using the camera.' });
    await camera.open();
    expect(camera.get().stage).toBe('open');
  });

  it('tells when it is taken away', async () => {
    const { camera, hands, end } = table();
    await camera.open();
    end();
    expect(camera.get().stage).toBe('failed');
    expect(camera.get().why).toContain('taken away');
    expect(hands.closed).toBe(1);
  });

  it('stays open while a new stack gets its address, and closes when it is left', async () => {
    const { camera, hands, open, frame } = table();
    await camera.open();
    await frame(answer('taken', true));
    camera.leave();
    vi.advanceTimersByTime(1000);
    await camera.open();
    vi.advanceTimersByTime(5000);
    expect(open).toHaveBeenCalledTimes(1);
    expect(camera.get()).toMatchObject({ stage: 'open', taken: 1 });
    camera.leave();
    vi.advanceTimersByTime(1500);
    expect(camera.get()).toMatchObject({ stage: 'closed', taken: 0 });
    expect(hands.closed).toBe(1);
  });

  it('takes one picture at a time, however often it is asked', async () => {
    const { camera, hands, picture } = table();
    let come = (_: Blob) => {};
    picture.mockImplementationOnce(() => new Promise((resolve) => (come = resolve)));
    await camera.open();
    const first = camera.release();
    await camera.release();
    expect(camera.get().taking).toBe(true);
    come(new Blob(['picture']));
    await first;
    expect(picture).toHaveBeenCalledTimes(1);
    expect(hands.keep).toHaveBeenCalledTimes(1);
  });

  it('fails with a sentence where no picture comes', async () => {
    const { camera, picture, frame } = table();
    picture.mockRejectedValueOnce(new Error('bus'));
    await camera.open();
    await frame(answer('taken', true));
    expect(camera.get()).toMatchObject({ stage: 'failed', taken: 0, taking: false });
  });
});
