import { Select as Radix } from 'radix-ui';
import { type ComponentProps, type ReactNode, useId } from 'react';
import { Pop } from './Pop';
import { SelectList } from './Select';

const LOOK =
  'inline max-w-full cursor-pointer border-b-2 border-accent text-left leading-6 font-semibold text-accent hover:bg-accent-pale disabled:border-hairline disabled:text-soft';

export type WordProps<T extends string> = {
  label: string;
  value: T;
  options: readonly { value: T; label: string; disabled?: boolean }[];
  onChange: (value: T) => void;
};

/** A piece of a sentence that is one of several. */
export function Word<T extends string>({ label, value, options, onChange }: WordProps<T>) {
  const chosen = options.find((option) => option.value === value);
  return (
    <Radix.Root value={value} onValueChange={(next) => next && onChange(next as T)}>
      <Radix.Trigger aria-label={`${label}: ${chosen?.label ?? ''}`} className={LOOK}>
        {chosen?.label ?? value}
      </Radix.Trigger>
      <SelectList options={options} />
    </Radix.Root>
  );
}

export type WrittenProps = { label: string; text: string; children: ReactNode } & Pick<
  ComponentProps<typeof Pop>,
  'open' | 'onOpenChange'
>;

/** A piece of a sentence that is written, or set, in what opens at it. */
export function Written({ label, text, children, ...state }: WrittenProps) {
  const id = useId();
  return (
    <Pop
      {...state}
      label={label}
      className="w-72"
      trigger={
        <button type="button" id={id} aria-label={`${label}: ${text}`} className={LOOK}>
          {text}
        </button>
      }
    >
      {children}
    </Pop>
  );
}
