/** What a page would look like: one question at a time, and then only the latest, because hands are quicker than answers. */

export type Looking<Answer> = {
  /** In the air, and what is wanted by now; both are texts, so that equal wishes are one. */
  asking: string | undefined;
  wanted: string | undefined;
  answer: { question: string; data: Answer } | undefined;
  /** Why the last question was not answered. */
  error: { question: string; message: string } | undefined;
};

export const NOTHING_ASKED = { asking: undefined, wanted: undefined, answer: undefined, error: undefined };

export type Happening<Answer> =
  | { kind: 'want'; question: string | undefined }
  | { kind: 'came'; question: string; data: Answer }
  | { kind: 'failed'; question: string; message: string };

export type Instruction = { do: 'ask'; question: string };

export function looking<Answer>(state: Looking<Answer>, happened: Happening<Answer>): [Looking<Answer>, Instruction[]] {
  switch (happened.kind) {
    case 'want': {
      if (happened.question === state.wanted) return [state, []];
      return next({ ...state, wanted: happened.question });
    }
    case 'came': {
      if (happened.question !== state.asking) return [state, []];
      const { question, data } = happened;
      return next({ ...state, asking: undefined, answer: { question, data }, error: undefined });
    }
    case 'failed': {
      if (happened.question !== state.asking) return [state, []];
      // The same is not asked again: it would be refused again, as fast as answers come.
      const wanted = state.wanted === happened.question ? undefined : state.wanted;
      return next({
        ...state,
        asking: undefined,
        wanted,
        error: { question: happened.question, message: happened.message },
      });
    }
  }
}

function next<Answer>(state: Looking<Answer>): [Looking<Answer>, Instruction[]] {
  const { wanted } = state;
  if (state.asking !== undefined || wanted === undefined || wanted === state.answer?.question) return [state, []];
  return [{ ...state, asking: wanted }, [{ do: 'ask', question: wanted }]];
}
