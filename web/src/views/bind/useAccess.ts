import { useState } from 'react';
import { useCopies } from '@/api/binding';
import type { Binding, BindingChange, PageMark, PageRow } from '@/api/types';
import { useCommands } from '@/hooks/useCommands';
import { MARKS } from '@/words/binding';
import { type Kind, type Passwords, TOOLS } from './Access';

export type AccessHands = {
  stackId: number;
  binding: Binding;
  page: PageRow | undefined;
  /** The page that the document in hand begins with. */
  first: number | undefined;
  /** Whether its panel is open. */
  open: boolean;
  may: boolean;
  /** Why no copy can be made now. */
  why: string;
  say: (change: BindingChange) => void;
  /** What was said last has been kept. */
  kept: () => Promise<boolean>;
  onMade: () => void;
};

const NONE: Passwords = { opening: '', changing: '' };

/** What hands do for access copies: mark the page, leave it out, have copies made. */
export function useAccess({ stackId, binding, page, first, open, may, why, say, kept, onMade }: AccessHands) {
  const [tool, setTool] = useState<Kind>();
  const [passwords, setPasswords] = useState(NONE);
  const { mutate, isPending } = useCopies(stackId);
  const takeUp = (kind: Kind | undefined) => {
    // A mark that has the keyboard would keep Enter for itself, which is to place the next one.
    if (document.activeElement?.id.startsWith('mark-')) (document.activeElement as HTMLElement).blur();
    setTool(kind);
  };
  const out = !!page && binding.left_out.includes(page.id);
  const put = (mark: PageMark) => page && say({ marks: { [page.id]: { put: [mark], gone: [] } } });
  const gone = (id: string) => page && say({ marks: { [page.id]: { put: [], gone: [id] } } });
  const leaveOut = (out: boolean) => {
    if (page) say({ left_out: { [page.id]: out } });
  };
  const make = async (all: boolean) => {
    if (why || first === undefined || !(await kept())) return;
    mutate(
      { ...passwords, first: all ? null : first },
      {
        onSuccess: () => {
          setPasswords(NONE);
          setTool(undefined);
          onMade();
        },
      },
    );
  };
  useCommands([
    ...TOOLS.map(({ kind, key }) => ({
      name: kind,
      label: `${MARKS[kind]} on the page, in access copies`,
      key,
      subject: 'Mark' as const,
      enabled: open && may && !out,
      perform: () => takeUp(tool === kind ? undefined : kind),
    })),
    {
      name: 'no tool',
      label: 'Lay the tool down',
      key: 'Escape',
      subject: 'Mark',
      enabled: open && tool !== undefined,
      perform: () => setTool(undefined),
    },
    {
      name: 'leave out',
      label: 'Leave the page out of access copies, or not',
      key: 'o',
      subject: 'Mark',
      enabled: open && may && !!page,
      perform: () => leaveOut(!out),
    },
    {
      name: 'make copy',
      label: 'Make an access copy',
      key: 'Shift+a',
      subject: 'Changes',
      enabled: open && may && !why && !isPending,
      perform: () => make(false),
    },
  ]);
  return {
    tool: out ? undefined : tool,
    setTool,
    passwords,
    setPasswords,
    pending: isPending,
    out,
    put,
    gone,
    leaveOut,
    make,
  };
}
