import { expect, it } from 'vitest';
import { type Happening, type Looking, looking, NOTHING_ASKED } from './preview';

function told(...happenings: Happening<string>[]) {
  let state: Looking<string> = NOTHING_ASKED;
  const said = happenings.map((happened) => {
    const [after, instructions] = looking(state, happened);
    state = after;
    return instructions.map(({ question }) => question).join();
  });
  return { said, state };
}
const want = (question: string | undefined): Happening<string> => ({ kind: 'want', question });
const came = (question: string): Happening<string> => ({ kind: 'came', question, data: `picture of ${question}` });

it('asks for the latest only, however many were wished meanwhile', () => {
  expect(told(want('a'), want('b'), want('c'), came('a'), came('c')).said).toEqual(['a', '', '', 'c', '']);
});

it('shows the last answer between two', () => {
  expect(told(want('a'), came('a'), want('b')).state.answer?.data).toBe('picture of a');
});

it('does not ask again for what it has, or when nothing is wished any more', () => {
  expect(told(want('a'), came('a'), want('a')).said).toEqual(['a', '', '']);
  expect(told(want('a'), want(undefined), came('a')).said).toEqual(['a', '', '']);
});

it('says what was refused, does not ask it again and again, and goes on with another', () => {
  const { said, state } = told(want('a'), { kind: 'failed', question: 'a', message: 'Not measured yet.' }, want('b'));
  expect(said).toEqual(['a', '', 'b']);
  expect(state.error?.message).toBe('Not measured yet.');
});

it('asks again for what was refused when it is wished anew', () => {
  const failed: Happening<string> = { kind: 'failed', question: 'a', message: 'Busy.' };
  expect(told(want('a'), failed, want(undefined), want('a')).said).toEqual(['a', '', '', 'a']);
});

it('passes over an answer to a question that is not in the air', () => {
  expect(told(want('a'), came('z')).state.answer).toBeUndefined();
});
