import { Collapsible } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { Chevron } from './signs';

/** What is seldom looked at, behind its title. */
export function Fold({ title, children }: { title: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen}>
      <Collapsible.Trigger className="flex min-h-8 items-center gap-2 text-soft hover:text-ink">
        <Chevron className={open ? '' : '-rotate-90'} />
        {title}
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
