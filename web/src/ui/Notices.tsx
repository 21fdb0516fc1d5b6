import { Suspense, useSyncExternalStore } from 'react';
import { said, subscribe } from '@/engine/notices';
import { useFetched } from '@/hooks/useFetched';
import { Guarded } from './Guarded';
import { view } from './view';

const Toasts = view(async () => (await import('./Toasts')).Toasts);
const PARTS = [Toasts];

/** Where notices appear. */
export function Notices() {
  const notices = useSyncExternalStore(subscribe, said);
  useFetched(PARTS);
  if (notices.length === 0) return null;
  // Without the toasts, notices are said all the same.
  const plain = (
    <div
      role="status"
      className="fixed bottom-18 left-1/2 z-50 print:hidden w-[36rem] max-w-[92vw] -translate-x-1/2 rounded-md bg-ink px-4 py-3 text-panel shadow-lifted"
    >
      {notices.map(({ id, text }) => (
        <p key={id}>{text}</p>
      ))}
    </div>
  );
  return (
    <Guarded what="Notices" instead={plain}>
      <Suspense fallback={plain}>
        <Toasts notices={notices} />
      </Suspense>
    </Guarded>
  );
}
