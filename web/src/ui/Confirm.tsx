import { cloneElement, type ReactElement, Suspense, useState } from 'react';
import { Guarded } from './Guarded';
import type { Asked } from './Question';
import { view } from './view';

export type ConfirmProps = Asked & {
  /** The button that asks. */
  children: ReactElement<{ onClick?: () => void; 'aria-haspopup'?: 'dialog' }>;
};

const Question = view(async () => (await import('./Question')).Question);

/** Asked once, before something goes that is not taken back by undo. */
export function Confirm({ children, ...asked }: ConfirmProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      {cloneElement(children, { onClick: () => setOpen(true), 'aria-haspopup': 'dialog' })}
      {open && (
        <Guarded what="The question">
          <Suspense>
            <Question {...asked} onClose={() => setOpen(false)} />
          </Suspense>
        </Guarded>
      )}
    </>
  );
}
