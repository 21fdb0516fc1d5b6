import { describe, expect, it } from 'vitest';
import type { Frame } from '@/engine/geometry/frames';
import { BARE, enlarged, type Glass, glass, type Happening, isLooking, onGlass, partOf, pictureOf } from './glass';

const frame = (x: number): Frame => ({ x, y: 50, width: 40, height: 60, angle: 0 });
const station = (id: number): Happening => ({ kind: 'station', station: id });
const look: Happening = { kind: 'look' };
const begun = (asked: number): Happening => ({ kind: 'begun', asked, nonce: `n${asked}`, picture: `p${asked}` });
const shown = (asked: number): Happening => ({ kind: 'shown', picture: `p${asked}` });
const proposed = (asked: number, ...frames: Frame[]): Happening => ({
  kind: 'proposed',
  nonce: `n${asked}`,
  frames,
  lidOpen: false,
});

function having(...happenings: Happening[]) {
  let state: Glass = BARE;
  const said = happenings.map((happened) => {
    const [next, instructions] = glass(state, happened);
    state = next;
    return instructions.map((one) => one.do).join();
  });
  return { state, said };
}

describe('a first look', () => {
  it('is asked of the station, shown as it comes, and its frames are proposed', () => {
    const { state, said } = having(station(1), look, begun(1), shown(1), proposed(1, frame(30)));
    expect(said).toEqual(['', 'ask', '', 'propose', '']);
    expect(pictureOf(state)).toBe('p1');
    expect(state.frames).toHaveLength(1);
    expect(isLooking(state)).toBe(false);
  });

  it('of one station is never asked of, or laid on, another that is chosen meanwhile', () => {
    const { state, said } = having(station(1), look, station(2), begun(1), shown(1), proposed(1, frame(30)));
    expect(said).toEqual(['', 'ask', '', '', '', '']);
    expect(pictureOf(state)).toBeUndefined();
    expect(state.frames).toEqual([]);
    expect(isLooking(state)).toBe(false);
  });

  it('that comes late does not land on the one after it', () => {
    const { state } = having(station(1), look, begun(1), look, begun(2), shown(2), proposed(1, frame(10)), shown(1));
    expect(pictureOf(state)).toBe('p2');
    expect(state.frames).toEqual([]);
  });

  it('leaves frames alone that were drawn while it came', () => {
    const { state } = having(
      station(1),
      look,
      begun(1),
      { kind: 'frames', frames: [frame(80)] },
      shown(1),
      proposed(1, frame(30)),
    );
    expect(state.frames[0]?.x).toBe(80);
  });

  it('that is refused, or breaks off, leaves the glass bare, and only if it is the last one', () => {
    expect(isLooking(having(station(1), look, { kind: 'refused', asked: 1 }).state)).toBe(false);
    expect(isLooking(having(station(1), look, look, { kind: 'refused', asked: 1 }).state)).toBe(true);
    expect(pictureOf(having(station(1), look, begun(1), { kind: 'broken', picture: 'p1' }).state)).toBeUndefined();
  });

  it('is asked of nobody where there is no station', () => {
    expect(having(look).said).toEqual(['']);
  });
});

describe('frames', () => {
  const drawn: Happening = { kind: 'frames', frames: [frame(30), frame(90)] };

  it('stay as they are at a second look where their items did not move', () => {
    const { state } = having(
      station(1),
      drawn,
      look,
      begun(1),
      shown(1),
      proposed(1, frame(32.9), frame(94), frame(150)),
    );
    expect(state.frames.map(({ x }) => x)).toEqual([30, 94, 150]);
    const larger = { ...frame(30), width: 46.5 };
    expect(having(station(1), drawn, look, begun(1), shown(1), proposed(1, larger)).state.frames).toEqual([larger]);
  });

  it('stay where a look finds nothing, and that is said', () => {
    const bare = having(station(1), look, begun(1), shown(1), proposed(1)).state;
    expect([bare.frames, bare.nothing]).toEqual([[], true]);
    const kept = having(station(1), drawn, look, begun(1), shown(1), proposed(1)).state;
    expect([kept.frames.length, kept.nothing]).toEqual([2, true]);
    expect(having(station(1), look, begun(1), shown(1), proposed(1), look).state.nothing).toBe(false);
  });

  it('are not taken away by a look that is refused or breaks off', () => {
    expect(having(station(1), drawn, look, { kind: 'refused', asked: 1 }).state.frames).toHaveLength(2);
    expect(having(station(1), drawn, look, look, { kind: 'refused', asked: 2 }).state.frames).toHaveLength(2);
    const broken: Happening = { kind: 'broken', picture: 'p1' };
    expect(having(station(1), drawn, look, begun(1), broken).state.frames).toHaveLength(2);
  });

  it('deleted leave the hand on the one that comes to their place', () => {
    const three: Happening = { kind: 'frames', frames: [frame(1), frame(2), frame(3)] };
    expect(having(three, { kind: 'delete', frame: 1 }).state.chosen).toBe(1);
    expect(having(three, { kind: 'delete', frame: 2 }).state.chosen).toBe(1);
    const one: Happening = { kind: 'frames', frames: [frame(1)] };
    expect(having(one, { kind: 'delete', frame: 0 }).state.chosen).toBeUndefined();
  });

  it('begin in the middle of the glass, in hand', () => {
    const { state } = having({ kind: 'new frame', width: 200, height: 300 });
    expect(state.frames[0]).toMatchObject({ x: 100, width: 120 });
    expect(state.chosen).toBe(0);
  });
});

it.each([
  [0, [1, 0]],
  [1, [0, -1]],
  [2, [-1, 0]],
  [3, [0, 1]],
])('an arrow to the right, with the view turned %i times, moves as it is seen', (quarter, expected) => {
  const [x, y] = onGlass([1, 0], quarter);
  expect([x + 0, y + 0]).toEqual(expected);
});

describe('a closer look', () => {
  const part = { x: 10, y: 20, width: 60, height: 40 };
  const closer: Happening = { kind: 'closer', part };

  it('is asked of the station for a part, and shown when it comes', () => {
    const { state } = having(station(1), closer);
    expect(glass({ ...BARE, station: 1 }, closer)[1]).toContainEqual({ do: 'ask closer', asked: 1, station: 1, part });
    const [shownClose] = glass(state, { kind: 'closer begun', asked: 1, picture: 'close.jpg' });
    expect(shownClose.closer).toEqual({ part, asked: 1, picture: 'close.jpg' });
    // The frames stay as they are, and so does the first look.
    expect(shownClose.look).toEqual(state.look);
  });

  it('that was left is not shown when it comes after all', () => {
    const left = having(station(1), closer, { kind: 'whole glass' }).state;
    expect(left.closer).toBeUndefined();
    expect(glass(left, { kind: 'closer begun', asked: 1, picture: 'close.jpg' })[0].closer).toBeUndefined();
    const again = glass(left, closer)[0];
    expect(glass(again, { kind: 'closer begun', asked: 1, picture: 'close.jpg' })[0].closer?.picture).toBeUndefined();
  });

  it('waits for the first look, and ends with the next one', () => {
    expect(having(station(1), look, closer).state.closer).toBeUndefined();
    expect(having(station(1), closer, look).state.closer).toBeUndefined();
    expect(having(closer).state.closer).toBeUndefined();
  });

  it('shows a frame with a little beside it, within the glass', () => {
    const bed = { width_mm: 216, height_mm: 297 };
    expect(partOf({ x: 50, y: 60, width: 40, height: 20, angle: 0 }, bed)).toEqual({
      x: 28,
      y: 48,
      width: 44,
      height: 24,
    });
    expect(partOf({ x: 10, y: 290, width: 40, height: 40, angle: 0 }, bed)).toEqual({
      x: 0,
      y: 268,
      width: 32,
      height: 29,
    });
    const turned = partOf({ x: 50, y: 60, width: 40, height: 20, angle: 90 }, bed);
    expect(turned.width).toBeCloseTo(24);
    expect(turned.height).toBeCloseTo(44);
  });

  it('fills the plane with it', () => {
    const bed = { width_mm: 200, height_mm: 300 };
    expect(enlarged({ x: 0, y: 0, width: 100, height: 100 }, bed)).toEqual({
      scale: 2,
      across: 0.25,
      down: 0.5 - 1 / 6,
    });
    expect(enlarged({ x: 99, y: 149, width: 2, height: 2 }, bed).scale).toBe(8);
  });
});

describe('a lid that looks open', () => {
  it('is told until the next look, whether frames are proposed or drawn', () => {
    const open: Happening = { kind: 'proposed', nonce: 'n1', frames: [], lidOpen: true };
    const seen = having(station(1), look, begun(1), shown(1), open).state;
    expect(seen.lidOpen).toBe(true);
    expect(glass(seen, look)[0].lidOpen).toBe(false);
    const byHand: Happening = { kind: 'frames', frames: [frame(30)] };
    const drawnOn = having(station(1), look, begun(1), shown(1), byHand, open).state;
    expect(drawnOn.lidOpen).toBe(true);
    expect(drawnOn.frames).toEqual([frame(30)]);
  });
});
