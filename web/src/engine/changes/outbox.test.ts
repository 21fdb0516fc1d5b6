import { describe, expect, it } from 'vitest';
import { EMPTY, type Happening, type Instruction, type Job, mayBeLost, type Outbox, outbox } from './outbox';

const job = (key: string): Job => ({ key, what: { doing: { do: 'break', pages: [1], on: true } } });
const put = (key: string): Happening => ({ kind: 'put', job: job(key) });
const refused = (key: string, passing: boolean): Happening => ({ kind: 'refused', key, message: 'Busy.', passing });

/** What is asked for, in short, as one thing after the other happens. */
function told(...happenings: Happening[]) {
  let state: Outbox = EMPTY;
  const said: string[] = [];
  for (const happened of happenings) {
    const [after, instructions] = outbox(state, happened);
    state = after;
    said.push(instructions.map(short).join(', '));
  }
  return { said, state };
}

const short = (one: Instruction) =>
  one.do === 'send'
    ? `send ${one.job.key}`
    : one.do === 'send last'
      ? `last ${one.jobs.map(({ key }) => key).join(' ')}`
      : one.do === 'wait'
        ? `wait ${one.ms}`
        : 'key' in one
          ? `${one.do} ${one.key}`
          : one.do;

describe('changes on their way', () => {
  it('go one after the other, the next when the list shows what the one before it did', () => {
    const { said } = told(
      put('a'),
      put('b'),
      { kind: 'answered', key: 'a', count: 5 },
      { kind: 'seen', count: 4 },
      { kind: 'seen', count: 5 },
    );
    expect(said).toEqual(['send a', '', 'done a, look', '', 'send b']);
  });

  it('go at once where the list was quicker than the answer', () => {
    const { said } = told(put('a'), put('b'), { kind: 'seen', count: 6 }, { kind: 'answered', key: 'a', count: 6 });
    expect(said).toEqual(['send a', '', '', 'done a, send b']);
  });

  it('are each told for themselves, though two are in the queue', () => {
    const { said, state } = told(
      put('a'),
      put('b'),
      { kind: 'answered', key: 'a', count: 1 },
      { kind: 'seen', count: 1 },
      { kind: 'answered', key: 'b', count: 2 },
    );
    expect(said.join(';')).toContain('done a');
    expect(said.join(';')).toContain('done b');
    expect(state.jobs).toEqual([]);
  });

  it('wait longer and longer while the machine is short of something, and lose nothing', () => {
    const { said, state } = told(
      put('a'),
      put('b'),
      refused('a', true),
      { kind: 'waited' },
      refused('a', true),
      { kind: 'waited' },
      { kind: 'answered', key: 'a', count: 1 },
      { kind: 'seen', count: 1 },
    );
    expect(said).toEqual(['send a', '', 'wait 500', 'send a', 'wait 1000', 'send a', 'done a, look', 'send b']);
    expect(state.held).toBe('');
  });

  it('say why they wait, and nothing goes past them', () => {
    const { said, state } = told(put('a'), refused('a', true), put('b'), { kind: 'seen', count: 9 });
    expect(said).toEqual(['send a', 'wait 500', '', '']);
    expect(state.held).toBe('Busy.');
  });

  it('that are refused for good are told, and the next goes on', () => {
    const { said } = told(put('a'), put('b'), refused('a', false));
    expect(said).toEqual(['send a', '', 'failed a, look, send b']);
  });

  it('all go when somebody leaves, but not what is in the air', () => {
    expect(told(put('a'), put('b'), put('c'), { kind: 'leaving' }).said.at(-1)).toBe('last b c');
    expect(told(put('a'), refused('a', true), put('b'), { kind: 'leaving' }).said.at(-1)).toBe('last a b');
    expect(told({ kind: 'leaving' }).said).toEqual(['']);
  });

  it('may be lost with the page while they wait behind what is in the air, or were put off by the server', () => {
    expect(mayBeLost(told().state)).toBe(false);
    expect(mayBeLost(told(put('a')).state)).toBe(false);
    expect(mayBeLost(told(put('a'), put('b')).state)).toBe(true);
    expect(mayBeLost(told(put('a'), refused('a', true)).state)).toBe(true);
    expect(mayBeLost(told(put('a'), refused('a', true), { kind: 'waited' }).state)).toBe(true);
    const arrived = told(put('a'), refused('a', true), { kind: 'waited' }, { kind: 'answered', key: 'a', count: 1 });
    expect(mayBeLost(arrived.state)).toBe(false);
    expect(mayBeLost(told(put('a'), refused('a', true), { kind: 'leaving' }).state)).toBe(false);
    expect(mayBeLost(told(put('a'), { kind: 'answered', key: 'a', count: 1 }).state)).toBe(false);
  });

  it('are not sent again by an answer that comes twice or late', () => {
    const { said } = told(put('a'), { kind: 'answered', key: 'a', count: 1 }, { kind: 'answered', key: 'a', count: 1 });
    expect(said).toEqual(['send a', 'done a, look', '']);
    expect(told(put('a'), refused('b', false), { kind: 'waited' }).said).toEqual(['send a', '', '']);
  });
});
