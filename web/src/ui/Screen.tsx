import type { ReactNode } from 'react';
import { useLocation } from 'wouter';
import { useCommands } from '@/hooks/useCommands';
import { useView } from '@/hooks/useView';
import { Title, TopBar } from './TopBar';

export type ScreenProps = { user: string; title: string; children: ReactNode };

/** A view beside the shelf, to be read from top to bottom; Escape goes back. */
export function Screen({ user, title, children }: ScreenProps) {
  const main = useView<HTMLElement>(title);
  const [, go] = useLocation();
  useCommands([{ name: 'shelf', label: 'Back to the shelf', key: 'Escape', subject: 'Go to', perform: () => go('/') }]);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar user={user} title={<Title>{title}</Title>} />
      <main ref={main} id="main" tabIndex={-1} className="min-h-0 flex-1 overflow-y-auto px-6 py-7 outline-none">
        <div className="mx-auto flex max-w-5xl flex-col gap-10">{children}</div>
      </main>
    </div>
  );
}

/** A part of such a view, under its heading. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex flex-col gap-3">
      <h2 className="text-title font-semibold">{title}</h2>
      {children}
    </section>
  );
}
