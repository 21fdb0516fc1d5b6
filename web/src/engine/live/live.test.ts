import { describe, expect, it } from 'vitest';
import { type Happening, type Instruction, type Live, live, START } from './live';

function told(...happenings: Happening[]) {
  let state: Live = START;
  const said = happenings.map((happened) => {
    const [after, instructions] = live(state, happened);
    state = after;
    return instructions.map(short).join(', ');
  });
  return { said, state };
}
const short = (one: Instruction) => ('ms' in one ? `${one.do} ${one.ms}` : one.do);
const told_ = (at: number, count: number): Happening => ({ at, kind: 'told', count });
const came = (at: number, count: number): Happening => ({ at, kind: 'came', count });

describe('a list that changes often', () => {
  it('is asked for once at a time, and what came meanwhile is asked for next', () => {
    const { said } = told(told_(0, 1), told_(100, 2), told_(200, 3), came(300, 1), { at: 700, kind: 'waited' });
    expect(said).toEqual(['ask', '', '', 'wait 400', 'ask']);
  });

  it('is not asked for again where the answer had it all', () => {
    const { said } = told(told_(0, 1), told_(100, 2), came(300, 2), told_(400, 2));
    expect(said).toEqual(['ask', '', '', '']);
  });

  it('is never starved by changes that come quicker than answers', () => {
    // A change each 350 ms, answers after 700 ms: the case in which nothing was ever shown.
    let state: Live = START;
    const timers: number[] = [];
    let answer: number | undefined;
    const shown: number[] = [];
    for (let at = 0; at <= 8400; at += 50) {
      const happenings: Happening[] = [];
      if (at % 350 === 0) happenings.push(told_(at, 1 + at / 350));
      if (answer !== undefined && at >= answer) {
        answer = undefined;
        happenings.push(came(at, Math.floor(at / 350)));
      }
      if (timers[0] !== undefined && at >= timers[0]) {
        timers.shift();
        happenings.push({ at, kind: 'waited' });
      }
      for (const happened of happenings) {
        const [after, instructions] = live(state, happened);
        state = after;
        if (happened.kind === 'came') shown.push(at);
        for (const one of instructions) {
          if (one.do === 'ask') answer = at + 700;
          if (one.do === 'wait') timers.push(at + one.ms);
        }
      }
    }
    expect(shown.length).toBeGreaterThan(4);
    expect(shown.length).toBeLessThan(8);
  });

  it('is asked for at once when hands wait for it, and once more if they came while it was asked for', () => {
    expect(told(told_(0, 1), came(50, 1), { at: 60, kind: 'look' }).said).toEqual(['ask', '', 'ask']);
    expect(told(told_(0, 1), { at: 20, kind: 'look' }, came(50, 1), came(90, 1)).said).toEqual(['ask', '', 'ask', '']);
  });

  it('is asked for again after a failure, but not at once', () => {
    expect(told(told_(0, 1), { at: 10, kind: 'failed' }, told_(20, 2), { at: 2010, kind: 'waited' }).said).toEqual([
      'ask',
      'wait 2000',
      '',
      'ask',
    ]);
  });
});

describe('the line to the server', () => {
  it('is tried again and again, and asked for what was missed when it is back', () => {
    const { said, state } = told(
      { at: 0, kind: 'opened' },
      came(50, 3),
      { at: 1000, kind: 'dropped' },
      { at: 1600, kind: 'dropped' },
      { at: 2700, kind: 'opened' },
    );
    expect(said).toEqual(['ask', '', 'connect 500', 'connect 1000', 'ask']);
    expect(state.line).toBe('open');
    expect(state.attempt).toBe(0);
  });

  it('says when it is tried next', () => {
    const { state } = told({ at: 0, kind: 'opened' }, { at: 5000, kind: 'dropped' });
    expect(state).toMatchObject({ line: 'lost', tryAt: 5500 });
  });
});
