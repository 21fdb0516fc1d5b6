import { describe, expect, it } from 'vitest';
import {
  type Correcting,
  correcting,
  type Happening,
  type Instruction,
  isPending,
  untouched,
  wished,
} from './correction';

function told(...happenings: Happening[]) {
  let state: Correcting = untouched(7);
  const said = happenings.map((happened) => {
    const [after, instructions] = correcting(state, happened);
    state = after;
    return instructions;
  });
  return { said, state };
}
let made = 0;
const keys = () => `k${++made}`;
const set = (part: object, now = false): Happening => ({ kind: 'set', part: part as never, now });
const still: Happening = { kind: 'still', keys };
const sent = (said: Instruction[][]) => said.flat().flatMap((one) => (one.do === 'send' ? [one] : []));

describe('a correction', () => {
  it('is sent as one change when hands are still', () => {
    const { said } = told(set({ skew: 0.1 }), set({ skew: 0.2 }), set({ colour: 'grey' }), still);
    expect(sent(said).map(({ doing }) => doing)).toEqual([
      { do: 'correct', pages: [7], correction: { skew: 0.2, colour: 'grey' } },
    ]);
  });

  it('stands until the page has come as it was saved, and then the page stands for itself', () => {
    made = 0;
    const before = told(
      set({ skew: 0.2 }),
      still,
      { kind: 'done', key: 'k1', count: 12 },
      { kind: 'shown', count: 11 },
    );
    expect(wished(before.state)).toEqual({ skew: 0.2 });
    made = 0;
    const after = told(set({ skew: 0.2 }), still, { kind: 'done', key: 'k1', count: 12 }, { kind: 'shown', count: 12 });
    expect(isPending(after.state)).toBe(false);
  });

  it('of two in the air, each settles with its own answer, in whichever order they come', () => {
    // Moving one thing, and another before the answer, left the bench at "Saving …" for ever.
    for (const order of [
      ['k1', 'k2'],
      ['k2', 'k1'],
    ]) {
      made = 0;
      const { state } = told(
        set({ adjust: 1 }, true),
        still,
        set({ colour: 'grey' }, true),
        still,
        ...order.map((key): Happening => ({ kind: 'done', key, count: key === 'k1' ? 5 : 6 })),
        { kind: 'shown', count: 6 },
      );
      expect(isPending(state)).toBe(false);
    }
  });

  it('set while an older value is in the air is kept when that one comes', () => {
    made = 0;
    const { state } = told(
      set({ skew: 0.1 }),
      still,
      set({ skew: 0.4 }),
      { kind: 'done', key: 'k1', count: 3 },
      {
        kind: 'shown',
        count: 3,
      },
    );
    expect(wished(state)).toEqual({ skew: 0.4 });
    expect(isPending(state)).toBe(true);
  });

  it('is settled too where the page came before the answer', () => {
    made = 0;
    const { state } = told(
      set({ skew: 0.2 }),
      still,
      { kind: 'shown', count: 12 },
      { kind: 'done', key: 'k1', count: 12 },
    );
    expect(isPending(state)).toBe(false);
  });

  it('that is refused goes back to what the page has, and what was set since stays', () => {
    made = 0;
    const { state } = told(set({ skew: 0.1 }), still, set({ colour: 'grey' }), { kind: 'failed', key: 'k1' });
    expect(wished(state)).toEqual({ colour: 'grey' });
  });

  it('and a split line go together as two changes, and neither is lost', () => {
    made = 0;
    const split = { start: [5, 0], end: [6, 90] };
    const { said, state } = told(set({ skew: 0.1 }), set({ split }), still);
    expect(sent(said).map(({ doing }) => doing.do)).toEqual(['correct', 'split']);
    const [half] = correcting(state, { kind: 'done', key: 'k1', count: 1 });
    const [shown] = correcting(half, { kind: 'shown', count: 1 });
    expect(wished(shown)).toEqual({ split });
  });

  it('of a page that is left is sent as its own, and the next page begins untouched', () => {
    const keys = () => 'k';
    const [set] = correcting(untouched(7), { kind: 'set', part: { skew: 0.2 } });
    const [state, sent] = correcting(set, { kind: 'page', page: 8, keys });
    expect(sent).toEqual([{ do: 'send', key: 'k', doing: { do: 'correct', pages: [7], correction: { skew: 0.2 } } }]);
    expect(state).toEqual(untouched(8));
    // The answer to it is of no concern to the page that is there now.
    expect(correcting(state, { kind: 'done', key: 'k', count: 5 })[0]).toEqual(untouched(8));
    expect(correcting(state, { kind: 'failed', key: 'k' })[0]).toEqual(untouched(8));
  });

  it('stays where the page is named again', () => {
    const [set] = correcting(untouched(7), { kind: 'set', part: { skew: 0.2 } });
    expect(correcting(set, { kind: 'page', page: 7, keys: () => 'k' })).toEqual([set, []]);
  });

  it('is not sent when nothing was set', () => {
    expect(told(still).said).toEqual([[]]);
  });
});
