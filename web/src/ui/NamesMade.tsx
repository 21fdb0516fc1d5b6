import type { ReactNode } from 'react';
import { Clipped } from './Tip';

export type NamesMadeProps = {
  /** Each with what is wrong with it, where something is. */
  names: readonly { id: string; name: string; wrong?: string | undefined }[];
  /** Whose names they are. */
  children: ReactNode;
};

/** The names that a pattern makes, below the field in which it is written. */
export function NamesMade({ names, children }: NamesMadeProps) {
  return (
    <section aria-label="Names that it makes" className="rounded-md border border-hairline px-2.5 py-1.5">
      <ul className="font-mono text-small">
        {names.map(({ id, name, wrong }) => (
          <li key={id} className="flex gap-3">
            <Clipped text={name} className="min-w-0 flex-1" />
            {wrong && <span className="shrink-0 font-sans">{wrong}</span>}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-small text-soft">{children}</p>
    </section>
  );
}
