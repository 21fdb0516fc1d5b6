import { Collapsible } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { Chevron } from './signs';

export type FoldProps = {
  title: string;
  /** Around pages, where soft words could not be read. */
  onSurround?: boolean;
  children: ReactNode;
};

/** What is seldom looked at, behind its title. */
export function Fold({ title, onSurround = false, children }: FoldProps) {
  const [open, setOpen] = useState(false);
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen}>
      <Collapsible.Trigger
        className={`flex min-h-8 items-center gap-2 ${onSurround ? 'text-surround-ink hover:underline' : 'text-soft hover:text-ink'}`}
      >
        <Chevron className={open ? '' : '-rotate-90'} />
        {title}
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
