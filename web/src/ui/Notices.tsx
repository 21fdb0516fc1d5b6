import { Toast } from 'radix-ui';
import { useSyncExternalStore } from 'react';

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
    <Toast.Provider swipeDirection="down" duration={7000} label="Notice">
      {shown.map((notice) => (
        <Toast.Root
          key={notice.id}
          onOpenChange={(open) => !open && change(notices.filter(({ id }) => id !== notice.id))}
          className="flex items-start gap-4 rounded-md border border-hairline bg-ink px-4 py-3 text-body text-on-accent"
        >
          <Toast.Description>{notice.text}</Toast.Description>
          <Toast.Close aria-label="Dismiss" className="px-1 text-on-accent">
            ×
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-4 left-1/2 z-50 flex w-[560px] max-w-[90vw] -translate-x-1/2 flex-col gap-2" />
    </Toast.Provider>
  );
}
