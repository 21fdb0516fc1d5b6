import { Popover } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';

export type PopProps = {
  trigger: ReactElement;
  label: string;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  children: ReactNode;
  className?: string;
};

/** A few controls that open at the one that stands for them. */
export function Pop({ trigger, label, children, className = '', ...state }: PopProps) {
  return (
    <Popover.Root {...state}>
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          sideOffset={6}
          align="start"
          collisionPadding={12}
          className={`z-50 max-h-(--radix-popover-content-available-height) max-w-[92vw] overflow-y-auto rounded-md border border-control bg-panel p-3 text-ink shadow-lifted ${className}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
