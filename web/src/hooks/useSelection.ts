import { useState } from 'react';
import { type Happening, NOTHING, type Seen, type Selection, selecting } from '@/engine/selection/selection';

type State = Seen & { selection: Selection };

/**
 * What is chosen among the pages that are shown, as these come and go; settled before anything is drawn, so that no key finds a
 * choice that is hidden. A page that the address names is the one that is looked at, whether a filter shows it or not.
 */
export function useSelection(shown: readonly number[], all: readonly number[], named: number | undefined) {
  const seen: Seen = { shown: named === undefined ? shown : all, all };
  const [state, setState] = useState<State>({ ...seen, selection: NOTHING });
  let now = state;
  if (state.shown !== seen.shown || state.all !== seen.all) {
    now = { ...seen, selection: selecting(state.selection, { kind: 'seen', before: state.shown }, seen) };
  }
  if (named !== undefined && now.selection.current !== named && all.includes(named)) {
    now = { ...now, selection: selecting(now.selection, { kind: 'only', id: named }, seen) };
  }
  if (now !== state) setState(now);
  const happen = (happened: Happening): Selection => {
    const selection = selecting(now.selection, happened, { shown, all });
    if (selection !== now.selection) setState((before) => ({ ...before, selection }));
    return selection;
  };
  return [now.selection, happen] as const;
}
