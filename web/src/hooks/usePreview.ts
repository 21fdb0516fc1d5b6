import { useEffect, useReducer, useRef } from 'react';
import { type Asked, type Preview, previewOf } from '@/api/bench';
import { type Happening, type Looking, looking, NOTHING_ASKED } from '@/engine/bench/preview';

export type Previewed = { data: Preview | undefined; error: string | undefined; pending: boolean };

/** What a page would look like; undefined while nothing is to be asked. Between two answers the last one stands. */
export function usePreview(asked: Asked | undefined): Previewed {
  const state = useRef<Looking<Preview>>(NOTHING_ASKED);
  const [, drawAgain] = useReducer((count: number) => count + 1, 0);
  const alive = useRef(true);
  const question = asked && JSON.stringify(asked);
  const happen = useRef((happened: Happening<Preview>): void => {
    const before = state.current;
    const [after, instructions] = looking(before, happened);
    state.current = after;
    if (before.answer && before.answer !== after.answer) release(before.answer.data);
    for (const one of instructions)
      previewOf(JSON.parse(one.question)).then(
        (data) => (alive.current ? happen.current({ kind: 'came', question: one.question, data }) : release(data)),
        (error: Error) => happen.current({ kind: 'failed', question: one.question, message: error.message }),
      );
    if (after !== before) drawAgain();
  });
  useEffect(() => {
    happen.current({ kind: 'want', question });
  }, [question]);
  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
      if (state.current.answer) release(state.current.answer.data);
      state.current = NOTHING_ASKED;
    };
  }, []);
  const { answer, error, asking } = state.current;
  // Of another page there is nothing to show, and nothing to say.
  const of = (told: { question: string } | undefined) => asked && told && JSON.parse(told.question).page === asked.page;
  return {
    data: of(answer) ? answer?.data : undefined,
    error: of(error) ? error?.message : undefined,
    pending: asking !== undefined,
  };
}

/** The last picture may still be on screen for a moment. */
const release = ({ picture }: Preview) => setTimeout(() => URL.revokeObjectURL(picture), 1000);
