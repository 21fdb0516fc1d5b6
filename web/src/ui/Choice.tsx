import { ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';

export type ChoiceProps<T extends string> = {
  label: string;
  value: T;
  options: { value: T; label: ReactNode; disabled?: boolean }[];
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
      className="inline-flex h-8 rounded-md border border-strong-line bg-board text-ink"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          disabled={option.disabled}
          className="flex items-center gap-2 border-r border-strong-line px-3 text-sm last:border-r-0 hover:bg-pressed disabled:opacity-45 data-[state=on]:bg-accent data-[state=on]:text-pale-ink"
        >
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
