import { Toast } from 'radix-ui';
import { dismiss, type Notice } from '@/engine/notices';
import { Cross } from './signs';

/** Notices that are announced, stay for a while, and can be dismissed. */
export function Toasts({ notices }: { notices: readonly Notice[] }) {
  return (
    <Toast.Provider swipeDirection="down" duration={9000} label="Notice">
      {notices.map(({ id, text }) => (
        <Toast.Root
          key={id}
          onOpenChange={(open) => !open && dismiss(id)}
          className="flex items-start gap-4 rounded-md bg-ink px-4 py-3 text-panel shadow-lifted"
        >
          <Toast.Description className="flex-1">{text}</Toast.Description>
          <Toast.Close aria-label="Dismiss" className="flex size-6 items-center justify-center">
            <Cross />
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-18 left-1/2 z-50 print:hidden flex w-[36rem] max-w-[92vw] -translate-x-1/2 flex-col gap-2" />
    </Toast.Provider>
  );
}
