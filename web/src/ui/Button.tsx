import { Slot } from 'radix-ui';
import { type ComponentProps, useId } from 'react';
import { Key } from './Key';

const BASE =
  'inline-flex items-center gap-2 rounded-md border whitespace-nowrap disabled:border-hairline disabled:bg-transparent disabled:text-soft aria-disabled:border-hairline aria-disabled:bg-transparent aria-disabled:text-soft';
const KINDS = {
  main: 'border-accent bg-accent text-on-accent hover:border-accent-deep hover:bg-accent-deep aria-disabled:bg-hover disabled:bg-hover',
  plain: 'border-control bg-panel text-ink hover:bg-hover',
  quiet: 'border-transparent bg-transparent text-ink hover:bg-hover',
};
const SIZES = {
  normal: 'min-h-9 px-3.5 font-semibold',
  small: 'min-h-7 px-2 text-small',
  square: 'size-8 shrink-0 font-semibold',
};
const SPREADS = { middle: 'justify-center', between: 'justify-between', wide: 'flex-1 justify-center' };

export type ButtonProps = Omit<ComponentProps<'button'>, 'disabled'> & {
  kind?: keyof typeof KINDS;
  size?: keyof typeof SIZES;
  spread?: keyof typeof SPREADS;
  asChild?: boolean;
  /** The key that does the same, written behind the label. */
  shortcut?: string | undefined;
  /** Why it cannot be used now, as one sentence that stands beside it; it can be used where there is none. */
  why?: string | false | null | undefined;
  /** It is being done, or there is nothing for it to do, and what can be seen says so. */
  disabled?: boolean | undefined;
  /** Whether it is switched on; it is no switch where this is not given. */
  pressed?: boolean | undefined;
};

/** A button; with asChild the child (a link) looks like one. One "main" a view at the most. */
export function Button(props: ButtonProps) {
  const {
    kind = 'plain',
    size = 'normal',
    spread = 'middle',
    asChild = false,
    shortcut,
    why,
    pressed,
    ...rest
  } = props;
  const { className = '', children, onClick, ...more } = rest;
  const id = useId();
  const Part = asChild ? Slot.Root : 'button';
  const look = pressed ? 'main' : kind;
  const button = (
    <Part
      {...(asChild ? {} : { type: 'button' as const })}
      {...more}
      {...(shortcut ? { 'aria-keyshortcuts': shortcut.replace('Ctrl+', 'Control+') } : {})}
      {...(pressed === undefined ? {} : { 'aria-pressed': pressed })}
      {...(why ? { 'aria-disabled': true, 'aria-describedby': id } : {})}
      onClick={why ? (event) => event.preventDefault() : onClick}
      className={`${BASE} ${SIZES[size]} ${SPREADS[spread]} ${KINDS[look]} ${className}`}
    >
      {asChild ? <Slot.Slottable>{children}</Slot.Slottable> : children}
      {shortcut && <Key of={shortcut} />}
    </Part>
  );
  // What it is beside stays where it is when the reason comes and goes.
  if (why === undefined) return button;
  return (
    <span className="inline-flex flex-wrap items-center gap-x-3 gap-y-1">
      {button}
      <span id={id} className="text-small text-soft">
        {why}
      </span>
    </span>
  );
}
