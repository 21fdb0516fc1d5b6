import { AlertDialog } from 'radix-ui';
import type { ReactElement } from 'react';
import { Button } from './Button';

export type ConfirmProps = {
  /** The button that asks. */
  children: ReactElement;
  question: string;
  /** What goes with it, and what does not. */
  more: string;
  action: string;
  keep?: string;
  onConfirm: () => void;
};

/** Asked once, before something goes that is not taken back by undo. */
export function Confirm({ children, question, more, action, keep = 'Keep it', onConfirm }: ConfirmProps) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>{children}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-lid/40" />
        <AlertDialog.Content
          aria-modal
          className="fixed top-[22vh] left-1/2 z-50 flex w-[30rem] max-w-[92vw] -translate-x-1/2 flex-col gap-3 rounded-md border border-hairline bg-panel p-6 shadow-lifted"
        >
          <AlertDialog.Title className="text-title font-semibold">{question}</AlertDialog.Title>
          <AlertDialog.Description>{more}</AlertDialog.Description>
          <div className="mt-2 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button kind="quiet">{keep}</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button kind="main" onClick={onConfirm}>
                {action}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
