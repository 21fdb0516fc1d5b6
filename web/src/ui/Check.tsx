import { Checkbox } from 'radix-ui';
import { type ReactNode, useId } from 'react';
import { Tick } from './signs';

export type CheckProps = { label: ReactNode; value: boolean; onChange: (value: boolean) => void; disabled?: boolean };

/** Yes or no, with its label behind it. */
export function Check({ label, value, onChange, disabled }: CheckProps) {
  const id = useId();
  return (
    <div className="flex min-h-6 items-center gap-2.5">
      <Checkbox.Root
        id={id}
        checked={value}
        disabled={disabled ?? false}
        onCheckedChange={(next) => onChange(next === true)}
        className="flex size-5 shrink-0 items-center justify-center rounded-sm border border-control bg-panel disabled:border-hairline data-[state=checked]:border-accent data-[state=checked]:bg-accent data-[state=checked]:text-on-accent"
      >
        <Checkbox.Indicator>
          <Tick />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className={`min-w-0 flex-1 ${disabled ? 'text-soft' : ''}`}>
        {label}
      </label>
    </div>
  );
}
