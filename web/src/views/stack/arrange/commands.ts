/** What can be done to the pages that are chosen: the panel, the help and the keyboard all read this list. */

import type { Doing, PageRow, Reordering } from '@/api/types';
import type { Command } from '@/engine/keys/registry';
import { counted } from '@/words/figures';

export type ArrangeCommand = Command & {
  group: 'Turn' | 'Place' | 'Hold' | 'Mark' | 'Sequence';
  /** What stands on its button, where the heading above says the rest. */
  brief?: string;
};
export type AsideReason = 'by hand' | 'duplicate' | 'rejected' | 'blank';

export type Hands = {
  /** Chosen pages, in stack order. */
  chosen: readonly PageRow[];
  current: PageRow | undefined;
  cut: readonly number[];
  setCut: (ids: readonly number[]) => void;
  reason: AsideReason;
  change: (doing: Doing) => void;
  openSplit: (page: PageRow) => void;
  askPosition: () => void;
};

export function arrangeCommands(hands: Hands): ArrangeCommand[] {
  const { chosen, current, cut, change } = hands;
  const pages = chosen.map(({ id }) => id);
  const some = pages.length > 0;
  const several = pages.length > 1;
  const known = some && chosen.every((page) => page.original !== null);
  const turn = (name: string, label: string, brief: string, key: string, degrees: 90 | 180 | 270): ArrangeCommand => ({
    group: 'Turn',
    name,
    label,
    brief,
    key,
    enabled: known,
    perform: () => change({ do: 'turn', pages, degrees }),
  });
  const sequence = (name: string, label: string, brief: string, key: string, word: Reordering): ArrangeCommand => ({
    group: 'Sequence',
    name,
    label,
    brief,
    key,
    enabled: several,
    perform: () => change({ do: word, pages }),
  });
  const allAside = some && chosen.every((page) => page.aside !== '');
  const allBreak = some && chosen.every((page) => page.breaks);
  const allAgain = some && chosen.every((page) => page.rescan !== '');
  return [
    turn('left', 'Turn to the left', 'Left', 'l', 270),
    turn('over', 'Turn upside down', 'Over', 'u', 180),
    turn('right', 'Turn to the right', 'Right', 'r', 90),
    { group: 'Place', name: 'cut', label: 'Cut', key: 'x', enabled: some, perform: () => hands.setCut(pages) },
    {
      group: 'Place',
      name: 'paste',
      label: cut.length ? `Put ${counted(cut.length, 'page')} behind` : 'Put what was cut behind',
      brief: 'Put behind',
      key: 'v',
      enabled: cut.length > 0 && current !== undefined,
      perform: () => {
        change({ do: 'move', pages: [...cut], after: current?.id ?? null });
        hands.setCut([]);
      },
    },
    {
      group: 'Place',
      name: 'paste first',
      label: 'Put what was cut first',
      brief: 'Put first',
      key: 'Shift+v',
      enabled: cut.length > 0,
      perform: () => {
        change({ do: 'move', pages: [...cut], after: null });
        hands.setCut([]);
      },
    },
    { group: 'Place', name: 'position', label: 'To position …', key: 'p', enabled: some, perform: hands.askPosition },
    {
      group: 'Hold',
      name: 'aside',
      label: allAside ? 'Put back' : 'Hold aside',
      key: 'a',
      enabled: known,
      perform: () =>
        change(
          allAside
            ? { do: 'aside', pages, aside: false, reason: 'by hand' }
            : { do: 'aside', pages, aside: true, reason: hands.reason },
        ),
    },
    {
      group: 'Hold',
      name: 'as planned',
      label: 'Aside or not as the treatment says',
      brief: 'As planned',
      key: 'Shift+a',
      enabled: known,
      perform: () => change({ do: 'aside', pages, aside: null, reason: 'by hand' }),
    },
    {
      group: 'Hold',
      name: 'delete',
      label: 'Delete (30 days in the bin)',
      brief: 'Delete',
      key: 'Delete',
      enabled: some,
      perform: () => change({ do: 'delete', pages }),
    },
    {
      group: 'Mark',
      name: 'break',
      label: allBreak ? 'No document break' : 'Document begins here',
      key: 'k',
      enabled: some,
      perform: () => change({ do: 'break', pages, on: !allBreak }),
    },
    {
      group: 'Mark',
      name: 'again',
      label: allAgain ? 'Need not be captured again' : 'To capture again',
      key: 'g',
      enabled: some,
      perform: () => change({ do: 'rescan', pages, why: allAgain ? '' : 'marked by hand' }),
    },
    {
      group: 'Mark',
      name: 'split',
      label: current?.split ? 'One page again' : 'Split in two …',
      key: 's',
      enabled: !several && known && current !== undefined,
      perform: () => {
        if (!current) return;
        if (current.split) change({ do: 'unsplit', page: current.id });
        else hands.openSplit(current);
      },
    },
    sequence('reverse', 'Reverse the sequence', 'Reverse', 'Shift+r', 'reverse'),
    sequence('deal', 'Deal odd and even places', 'Deal', 'Shift+d', 'deal'),
    sequence('interleave', 'Interleave fronts and backs', 'Interleave', 'i', 'interleave'),
    sequence('from behind', 'Interleave, backs from behind', 'From behind', 'Shift+i', 'interleave from behind'),
    sequence('by name', 'Sort by file name', 'By name', 'Shift+n', 'sort by name'),
    sequence('by time', 'Sort by time of capture', 'By time', 'Shift+t', 'sort by time'),
    sequence('by number', 'Sort by printed page number', 'By number', 'Shift+p', 'sort by number'),
  ];
}

/** The page behind which chosen ones go so that the first of them comes to a 1-based position among the pages. */
export function afterFor(order: readonly number[], chosen: ReadonlySet<number>, position: number): number | null {
  const rest = order.filter((id) => !chosen.has(id));
  const at = Math.max(0, Math.min(rest.length, Math.round(position) - 1));
  return at === 0 ? null : (rest[at - 1] ?? null);
}
