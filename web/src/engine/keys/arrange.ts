/** What can be done to the pages that are chosen: panel, menu, key sheet and keyboard all read this list. */

import type { Doing, PageRow, Reordering } from '@/api/types';
import { counted } from '@/words/figures';
import type { Command } from './registry';

export type Group = 'Turn' | 'Move' | 'Hold' | 'Mark' | 'Order';
export type ArrangeCommand = Command & {
  subject: Group;
  /** What stands on its button, where the heading above says the rest. */
  brief?: string;
};
export type AsideReason = 'by hand' | 'duplicate' | 'rejected' | 'blank';

export type ArrangeHands = {
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

export function arrangeCommands(hands: ArrangeHands): ArrangeCommand[] {
  const { chosen, current, cut, change } = hands;
  const pages = chosen.map(({ id }) => id);
  const some = pages.length > 0;
  const several = pages.length > 1;
  const known = some && chosen.every((page) => page.original !== null);
  const turn = (name: string, label: string, brief: string, key: string, degrees: 90 | 180 | 270): ArrangeCommand => ({
    subject: 'Turn',
    name,
    label,
    brief,
    key,
    enabled: known,
    perform: () => change({ do: 'turn', pages, degrees }),
  });
  const order = (name: string, label: string, brief: string, key: string, word: Reordering): ArrangeCommand => ({
    subject: 'Order',
    name,
    label,
    brief,
    key,
    enabled: several,
    perform: () => change({ do: word, pages }),
  });
  const put = (name: string, label: string, brief: string, key: string, after: number | null, enabled: boolean) =>
    ({
      subject: 'Move',
      name,
      label,
      brief,
      key,
      enabled,
      perform: () => {
        change({ do: 'move', pages: [...cut], after });
        hands.setCut([]);
      },
    }) as const;
  const allAside = some && chosen.every((page) => page.aside !== '');
  const allBreak = some && chosen.every((page) => page.breaks);
  const allAgain = some && chosen.every((page) => page.rescan !== '');
  const what = cut.length ? counted(cut.length, 'page') : 'what was cut';
  return [
    turn('left', 'Turn to the left', 'Left', 'l', 270),
    turn('over', 'Turn upside down', 'Upside down', 'u', 180),
    turn('right', 'Turn to the right', 'Right', 'r', 90),
    { subject: 'Move', name: 'cut', label: 'Cut', key: 'x', enabled: some, perform: () => hands.setCut(pages) },
    put(
      'paste',
      `Put in ${what} after this page`,
      'Put in after',
      'v',
      current?.id ?? null,
      cut.length > 0 && !!current,
    ),
    put('paste first', `Put in ${what} first`, 'Put in first', 'Shift+v', null, cut.length > 0),
    {
      subject: 'Move',
      name: 'position',
      label: 'Move to a position …',
      key: 'p',
      enabled: some,
      perform: hands.askPosition,
    },
    {
      subject: 'Hold',
      name: 'aside',
      label: allAside ? 'Back into the stack' : 'Hold aside',
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
      subject: 'Hold',
      name: 'as treated',
      label: 'Aside or not, as the treatment says',
      brief: 'As the treatment says',
      key: 'Shift+a',
      enabled: known,
      perform: () => change({ do: 'aside', pages, aside: null, reason: 'by hand' }),
    },
    {
      subject: 'Hold',
      name: 'delete',
      label: 'Delete (30 days in the bin)',
      brief: 'Delete',
      key: 'Delete',
      enabled: some,
      perform: () => change({ do: 'delete', pages }),
    },
    {
      subject: 'Mark',
      name: 'break',
      label: allBreak ? 'No document break' : 'Document begins here',
      key: 'k',
      enabled: some,
      perform: () => change({ do: 'break', pages, on: !allBreak }),
    },
    {
      subject: 'Mark',
      name: 'again',
      label: allAgain ? 'No recapture' : 'Recapture',
      key: 'g',
      enabled: some,
      perform: () => change({ do: 'rescan', pages, why: allAgain ? '' : 'marked by hand' }),
    },
    {
      subject: 'Mark',
      name: 'split',
      label: current?.split ? 'Undo the split' : 'Split in two …',
      key: 's',
      enabled: !several && known && current !== undefined,
      perform: () => {
        if (!current) return;
        if (current.split) change({ do: 'unsplit', page: current.id });
        else hands.openSplit(current);
      },
    },
    order('reverse', 'Reverse the order', 'Reverse', 'Shift+r', 'reverse'),
    order('deal', 'Separate odd and even pages', 'Separate odd and even', 'Shift+d', 'deal'),
    order('interleave', 'Interleave fronts and backs', 'Interleave', 'i', 'interleave'),
    order(
      'from behind',
      'Interleave, backs from the last',
      'Interleave from the last',
      'Shift+i',
      'interleave from behind',
    ),
    order('by name', 'Sort by file name', 'By name', 'Shift+n', 'sort by name'),
    order('by time', 'Sort by time of capture', 'By time', 'Shift+t', 'sort by time'),
    order('by number', 'Sort by printed page number', 'By number', 'Shift+p', 'sort by number'),
  ];
}

/** What of it somebody may do: those who inspect mark pages for recapture, those who work do all of it. */
export function allowed(
  commands: readonly ArrangeCommand[],
  rights: { work: boolean; inspect: boolean },
): ArrangeCommand[] {
  if (rights.work) return [...commands];
  return rights.inspect ? commands.filter(({ name }) => name === 'again') : [];
}

/** The page behind which chosen ones go so that the first of them comes to a 1-based position among the pages. */
export function afterFor(order: readonly number[], chosen: ReadonlySet<number>, position: number): number | null {
  const rest = order.filter((id) => !chosen.has(id));
  const at = Math.max(0, Math.min(rest.length, Math.round(position) - 1));
  return at === 0 ? null : (rest[at - 1] ?? null);
}
