import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { Link, useLocation } from 'wouter';
import { useMay } from '@/api/people';
import { useSignOut } from '@/api/queries';
import { type Chrome, useChrome } from '@/hooks/useChrome';
import { floor } from './floor';
import { Chevron, Stacked, Tick } from './signs';

export type TopBarProps = { user: string; title?: ReactNode; children?: ReactNode };

/** The strip on top of every view: where one is, the way of the work, and whoever is signed in. */
export function TopBar({ user, title, children }: TopBarProps) {
  return (
    <header className="flex min-h-13 shrink-0 flex-wrap items-center gap-x-3 border-b border-hairline bg-panel px-6">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:rounded-md focus:bg-accent focus:px-3 focus:py-1 focus:text-on-accent"
      >
        To the contents
      </a>
      <Link href="/" className="flex min-h-9 items-center gap-3.5 font-semibold">
        <Stacked className="size-6 text-accent" />
        Shelf
      </Link>
      {title && (
        <>
          <span className="text-soft" aria-hidden="true">
            /
          </span>
          <div className="min-w-0 flex-1 basis-48">{title}</div>
        </>
      )}
      <div className="ml-auto flex flex-wrap items-center gap-x-5">
        {children}
        <UserMenu user={user} />
      </div>
    </header>
  );
}

/** The title of a view in its strip. */
export function Title({ children }: { children: ReactNode }) {
  return <h1 className="truncate">{children}</h1>;
}

const CHROMES: { value: Chrome; label: string }[] = [
  { value: 'system', label: 'As the system is' },
  { value: 'light', label: 'Light' },
  { value: 'dark', label: 'Dark, for dim rooms' },
];
const ITEM =
  'flex min-h-9 cursor-default items-center gap-2 rounded-sm px-2 outline-none select-none data-[highlighted]:bg-accent data-[highlighted]:text-on-accent';

function UserMenu({ user }: { user: string }) {
  const signOut = useSignOut();
  const people = useMay('people');
  const [, go] = useLocation();
  const [chrome, setChrome] = useChrome();
  const places = [
    { href: '/account', label: 'Your account' },
    { href: '/treatments', label: 'Treatments' },
    { href: '/destinations', label: 'Destinations' },
    ...(people ? [{ href: '/people', label: 'People' }] : []),
    { href: '/bin', label: 'Bin' },
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="flex min-h-9 max-w-48 items-center gap-2 rounded-md px-2 text-soft hover:bg-hover hover:text-ink">
        <span className="truncate">{user}</span>
        <Chevron />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floor()}>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 min-w-52 rounded-md border border-control bg-panel p-1 text-ink shadow-lifted"
        >
          {places.map(({ href, label }) => (
            <DropdownMenu.Item key={href} className={ITEM} onSelect={() => go(href)}>
              <span className="w-4" />
              {label}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
          <DropdownMenu.RadioGroup value={chrome} onValueChange={(value) => setChrome(value as Chrome)}>
            {CHROMES.map(({ value, label }) => (
              <DropdownMenu.RadioItem key={value} value={value} className={ITEM}>
                <span className="w-4">
                  <DropdownMenu.ItemIndicator>
                    <Tick />
                  </DropdownMenu.ItemIndicator>
                </span>
                {label}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
          <DropdownMenu.Item className={ITEM} onSelect={() => signOut.mutate()}>
            <span className="w-4" />
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
