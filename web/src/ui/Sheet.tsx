import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './Button';

export type SheetProps = { open: boolean; onOpenChange: (open: boolean) => void; title: string; children: ReactNode };

/** A sheet laid over the view for reading; Escape puts it away. Work goes on behind it. */
export function Sheet({ open, onOpenChange, title, children }: SheetProps) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-surround-deep/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 max-h-[76vh] w-[520px] max-w-[92vw] -translate-x-1/2 overflow-auto rounded-md border border-strong-line bg-raised p-5"
        >
          <div className="mb-3 flex items-center justify-between">
            <Dialog.Title className="text-lg font-semibold">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <Button kind="quiet">Close</Button>
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
