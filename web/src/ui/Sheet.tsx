import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './Button';
import { Cross } from './signs';

export type SheetProps = {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  /** Room for columns. */
  wide?: boolean;
  /** Stands beside the title. */
  beside?: ReactNode;
  children: ReactNode;
};

/** A sheet laid over the view for reading or for a few fields; Escape puts it away. Work goes on behind it. */
export function Sheet({ open, onOpenChange, title, wide, beside, children }: SheetProps) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-lid/40" />
        <Dialog.Content
          aria-describedby={undefined}
          aria-modal
          className={`fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] max-w-[94vw] -translate-x-1/2 flex-col rounded-md border border-hairline bg-panel shadow-lifted ${wide ? 'w-[62rem]' : 'w-[34rem]'}`}
        >
          <div className="flex shrink-0 flex-wrap items-center gap-4 px-6 pt-5 pb-3">
            <Dialog.Title className="mr-auto text-title font-semibold">{title}</Dialog.Title>
            {beside}
            <Dialog.Close asChild>
              <Button kind="quiet" size="square" aria-label="Close">
                <Cross />
              </Button>
            </Dialog.Close>
          </div>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, by key too */}
          <div tabIndex={0} className="min-h-0 overflow-auto px-6 pb-6">
            {children}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
