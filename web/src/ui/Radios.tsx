import { RadioGroup } from 'radix-ui';
import { type ReactNode, useId } from 'react';

export type RadiosProps<T extends string> = {
  label: string;
  value: T;
  options: readonly { value: T; label: ReactNode; soft?: boolean }[];
  onChange: (value: T) => void;
  /** Takes the keyboard when it appears. */
  focused?: boolean;
};

/** One of several, all of them in view. */
export function Radios<T extends string>({ label, value, options, onChange, focused }: RadiosProps<T>) {
  const id = useId();
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      onValueChange={(chosen) => onChange(chosen as T)}
      className="flex flex-col gap-1.5"
    >
      {options.map((option) => (
        <div key={option.value} className="flex min-h-6 items-center gap-2.5">
          <RadioGroup.Item
            id={`${id}${option.value}`}
            value={option.value}
            autoFocus={!!focused && option.value === value}
            className="flex size-5 shrink-0 items-center justify-center rounded-full border border-control bg-panel data-[state=checked]:border-accent"
          >
            <RadioGroup.Indicator className="size-2.5 rounded-full bg-accent" />
          </RadioGroup.Item>
          <label
            htmlFor={`${id}${option.value}`}
            className={`flex min-w-0 flex-1 gap-2 ${option.soft ? 'text-soft' : ''}`}
          >
            {option.label}
          </label>
        </div>
      ))}
    </RadioGroup.Root>
  );
}
