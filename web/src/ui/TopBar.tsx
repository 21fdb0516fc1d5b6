import type { ReactNode } from 'react';
import { Link } from 'wouter';
import { useSignOut } from '@/api/queries';
import { Button } from './Button';

export type TopBarProps = { user: string; title?: ReactNode; children?: ReactNode };

/** The strip on top of every view: where one is, what can be done here, who is signed in. */
export function TopBar({ user, title, children }: TopBarProps) {
  const signOut = useSignOut();
  return (
    <header className="flex h-12 shrink-0 items-center gap-3 border-b border-hairline bg-ground px-4">
      <Link href="/" className="flex items-center gap-2 text-body font-semibold">
        <Stacked />
        Shelf
      </Link>
      {title && (
        <>
          <span className="text-soft" aria-hidden="true">
            /
          </span>
          <h1 className="min-w-0 truncate text-body" title={typeof title === 'string' ? title : undefined}>
            {title}
          </h1>
        </>
      )}
      <div className="ml-auto flex shrink-0 items-center gap-2">
        {children}
        <Link href="/account" title="Your account" className="max-w-40 truncate pl-2 text-soft hover:underline">
          {user}
        </Link>
        <Button kind="quiet" onClick={() => signOut.mutate()}>
          Sign out
        </Button>
      </div>
    </header>
  );
}

/** The product's sign: a small pile seen from its side, with one line missing. */
export function Stacked({ className = 'size-5' }: { className?: string }) {
  return (
    <svg viewBox="0 0 16 16" className={className} aria-hidden="true">
      <path fill="currentColor" d="M1 2h14v1.5H1zm0 2.9h10v1.5H1zm0 2.9h3v1.5H1zm0 2.9h14v1.5H1zm0 2.9h8V15H1z" />
    </svg>
  );
}
