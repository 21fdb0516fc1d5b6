import { Slot } from 'radix-ui';
import type { ComponentProps } from 'react';

const BASE =
  'inline-flex h-8 items-center justify-center gap-2 rounded-md border px-3 text-sm whitespace-nowrap disabled:opacity-45';
const KINDS = {
  main: 'border-accent-deep bg-accent text-pale-ink hover:bg-accent-deep',
  plain: 'border-strong-line bg-raised text-ink hover:bg-pressed',
  quiet: 'border-transparent bg-transparent text-ink hover:bg-pressed',
};

export type ButtonProps = ComponentProps<'button'> & { kind?: keyof typeof KINDS; asChild?: boolean };

/** A button; with asChild the child (a link) looks like one. One "main" a view at the most. */
export function Button({ kind = 'plain', asChild = false, className = '', ...rest }: ButtonProps) {
  const Part = asChild ? Slot.Root : 'button';
  return (
    <Part
      {...(asChild ? {} : { type: 'button' as const })}
      {...rest}
      className={`${BASE} ${KINDS[kind]} ${className}`}
    />
  );
}
