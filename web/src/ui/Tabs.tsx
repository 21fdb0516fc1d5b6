import { Tabs as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { keepKeys } from './keepKeys';

export type TabsProps<T extends string> = {
  label: string;
  value: T;
  options: readonly { value: T; label: ReactNode }[];
  onChange: (value: T) => void;
  className?: string;
  children: ReactNode;
};

/** One of a few panels, named on top. */
export function Tabs<T extends string>({ label, value, options, onChange, className = '', children }: TabsProps<T>) {
  return (
    <Radix.Root
      value={value}
      onValueChange={(chosen) => onChange(chosen as T)}
      className={`flex min-h-0 flex-col ${className}`}
    >
      <Radix.List aria-label={label} className="flex shrink-0 gap-4 border-b border-hairline px-4">
        {options.map((option) => (
          <Radix.Trigger
            key={option.value}
            value={option.value}
            onMouseDown={(event) => {
              if (event.button !== 0) return;
              keepKeys(event);
              onChange(option.value);
            }}
            className="-mb-px min-h-11 border-b-3 border-transparent text-soft hover:text-ink data-[state=active]:border-accent data-[state=active]:font-semibold data-[state=active]:text-ink"
          >
            {option.label}
          </Radix.Trigger>
        ))}
      </Radix.List>
      <Radix.Content value={value} className="flex min-h-0 flex-1 flex-col overflow-y-auto -outline-offset-2">
        {children}
      </Radix.Content>
    </Radix.Root>
  );
}
