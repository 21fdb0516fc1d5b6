import { AlertDialog } from 'radix-ui';
import { Button } from './Button';

export type Asked = {
  question: string;
  /** What goes with it, and what does not. */
  more: string;
  action: string;
  keep?: string;
  onConfirm: () => void;
};

/** The question itself, laid over the view until it is answered. */
export function Question({ question, more, action, keep, onConfirm, onClose }: Asked & { onClose: () => void }) {
  return (
    <AlertDialog.Root open onOpenChange={onClose}>
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
              <Button kind="quiet">{keep ?? 'Keep it'}</Button>
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
