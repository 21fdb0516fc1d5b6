import { Toggle as Radix } from 'radix-ui';
import type { ComponentProps } from 'react';
import { Key } from './Key';

export type ToggleProps = Omit<ComponentProps<'button'>, 'onChange'> & {
  on: boolean;
  onChange: (on: boolean) => void;
  shortcut?: string | undefined;
  /** Its key is not written on it: there is no room. */
  plain?: boolean;
};

/** Something that is switched on and off. */
export function Toggle({ on, onChange, shortcut, plain, children, ...rest }: ToggleProps) {
  return (
    <Radix.Root
      {...rest}
      pressed={on}
      onPressedChange={onChange}
      {...(shortcut ? { 'aria-keyshortcuts': shortcut } : {})}
      className="inline-flex min-h-8 items-center gap-2 rounded-md border border-control bg-panel px-3 whitespace-nowrap hover:bg-hover data-[state=on]:border-accent data-[state=on]:bg-accent data-[state=on]:text-on-accent"
    >
      {children}
      {shortcut && !plain && <Key of={shortcut} />}
    </Radix.Root>
  );
}
