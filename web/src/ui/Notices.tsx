import { Toast } from 'radix-ui';
import { useSyncExternalStore } from 'react';
import { Cross } from './signs';

type Notice = { id: number; text: string };
let notices: Notice[] = [];
let next = 1;
const listeners = new Set<() => void>();

function change(to: Notice[]) {
  notices = to;
  for (const listener of listeners) listener();
}

/** Say one sentence at the foot of the screen; for refusals and for what was done and can be undone. */
export function notify(text: string): void {
  if (notices.some((notice) => notice.text === text)) return;
  change([...notices, { id: next++, text }]);
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Where notices appear. */
export function Notices() {
  const shown = useSyncExternalStore(subscribe, () => notices);
  return (
    <Toast.Provider swipeDirection="down" duration={9000} label="Notice">
      {shown.map((notice) => (
        <Toast.Root
          key={notice.id}
          onOpenChange={(open) => !open && change(notices.filter(({ id }) => id !== notice.id))}
          className="flex items-start gap-4 rounded-md bg-ink px-4 py-3 text-panel shadow-lifted"
        >
          <Toast.Description className="flex-1">{notice.text}</Toast.Description>
          <Toast.Close aria-label="Dismiss" className="flex size-6 items-center justify-center">
            <Cross />
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-18 left-1/2 z-50 flex w-[36rem] max-w-[92vw] -translate-x-1/2 flex-col gap-2" />
    </Toast.Provider>
  );
}
