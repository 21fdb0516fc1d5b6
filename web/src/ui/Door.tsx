import type { FormEvent, ReactNode } from 'react';
import { Button } from './Button';
import { Stacked } from './TopBar';

export type DoorProps = {
  title: string;
  /** What is wrong, or what is to be known before: there is room for it, so that nothing jumps. */
  said: string;
  action: string;
  busy: boolean;
  onEnter: () => void;
  children: ReactNode;
};

/** What stands before somebody who is not signed in: a small form in the middle of an empty surround. */
export function Door({ title, said, action, busy, onEnter, children }: DoorProps) {
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onEnter();
  };
  return (
    <main className="flex h-full items-center justify-center bg-surround">
      <form
        onSubmit={submit}
        className="flex w-[350px] flex-col gap-4 rounded-md border border-hairline bg-ground p-7"
      >
        <h1 className="flex items-center gap-3 text-display font-semibold">
          <Stacked className="size-7" />
          {title}
        </h1>
        {children}
        <p role="alert" className="min-h-9 ">
          {said}
        </p>
        <Button kind="main" type="submit" disabled={busy}>
          {action}
        </Button>
      </form>
    </main>
  );
}
