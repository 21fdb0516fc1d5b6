import { type FormEvent, type ReactNode, useEffect, useRef } from 'react';
import { useView } from '@/hooks/useView';
import { Button } from './Button';
import { Stacked } from './signs';

export type DoorProps = {
  title: string;
  /** What is wrong, or what is to be known before: there is room for it, so that nothing jumps. */
  said: string;
  action: string;
  busy: boolean;
  onEnter: () => void;
  children: ReactNode;
};

/** What stands before somebody who is not signed in: a pile seen from its fore-edge, and a small form. */
export function Door({ title, said, action, busy, onEnter, children }: DoorProps) {
  const main = useView<HTMLElement>(undefined);
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector('input')?.focus(), []);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onEnter();
  };
  return (
    <main ref={main} id="main" tabIndex={-1} className="flex min-h-full flex-col outline-none lg:h-full lg:flex-row">
      <div aria-hidden="true" className="flex h-28 shrink-0 flex-col overflow-hidden bg-surround lg:h-auto lg:w-[38%]">
        <Pile />
      </div>
      <div className="flex flex-1 items-center justify-center p-8">
        <form ref={form} onSubmit={submit} className="flex w-88 max-w-full flex-col gap-5">
          <h1 className="flex items-center gap-3 text-display font-semibold">
            <Stacked className="size-8 text-accent" />
            {title}
          </h1>
          {children}
          <p role="alert" className="min-h-11">
            {said}
          </p>
          <Button kind="main" type="submit" disabled={busy} className="min-h-11">
            {action}
          </Button>
        </form>
      </div>
    </main>
  );
}

const LINES = 46;
const PILE = Array.from({ length: LINES }, (_, index) => ({
  y: index * 4 + 3,
  wide: index === 17 ? 4 : [78, 78, 70, 78, 52, 78, 78, 70][index % 8],
  tone: [244, 238, 247, 226, 241, 247, 233, 244][(index * 5) % 8],
}));

/** A tall stack from its side: pages of three sizes, some darker, one aside. */
function Pile() {
  return (
    <svg viewBox={`0 0 100 ${LINES * 4}`} preserveAspectRatio="xMinYMin slice" className="size-full" aria-hidden="true">
      {PILE.map(({ y, wide, tone }) => (
        <rect key={y} x="10" y={y} width={wide} height="2.9" fill={`rgb(${tone} ${tone} ${tone})`} />
      ))}
    </svg>
  );
}
