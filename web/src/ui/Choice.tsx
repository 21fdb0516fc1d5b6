import { ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';
import { keepKeys } from './keepKeys';

export type ChoiceProps<T extends string> = {
  label: string;
  value: T;
  options: readonly { value: T; label: ReactNode; disabled?: boolean }[];
  onChange: (value: T) => void;
};

/** One of a few, side by side; arrow keys move between them. */
export function Choice<T extends string>({ label, value, options, onChange }: ChoiceProps<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      value={value}
      onValueChange={(chosen) => chosen && onChange(chosen as T)}
      aria-label={label}
      className={SEGMENTS}
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          disabled={option.disabled}
          onMouseDown={keepKeys}
          className={SEGMENT}
        >
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** A row of choices. */
export const SEGMENTS = 'inline-flex min-h-8 max-w-full flex-wrap rounded-md border border-control bg-panel text-ink';

/** One piece of a row of choices. */
export const SEGMENT =
  'flex items-center gap-2 border-r border-hairline px-3 whitespace-nowrap first:rounded-l-md last:rounded-r-md last:border-r-0 hover:bg-hover disabled:text-soft aria-checked:bg-accent aria-checked:text-on-accent';
