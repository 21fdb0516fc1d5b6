/** What is said in one sentence at the foot of the screen; where it is shown is another matter. */

export type Notice = { id: number; text: string };

let notices: readonly Notice[] = [];
let next = 1;
const listeners = new Set<() => void>();

function change(to: readonly Notice[]) {
  notices = to;
  for (const listener of listeners) listener();
}

/** Say one sentence: for refusals and for what was done and can be undone. */
export function notify(text: string): void {
  if (notices.some((notice) => notice.text === text)) return;
  change([...notices, { id: next++, text }]);
}

/** It was read, or has stood long enough. */
export function dismiss(id: number): void {
  change(notices.filter((notice) => notice.id !== id));
}

export const said = (): readonly Notice[] => notices;

export const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
