import { Checkbox } from 'radix-ui';
import { type ReactNode, useId } from 'react';
import { Tick } from './signs';

export type CheckProps = {
  label: ReactNode;
  value: boolean;
  onChange: (value: boolean) => void;
  disabled?: boolean;
};

const BOX =
  'flex shrink-0 items-center justify-center rounded-sm border border-control bg-panel disabled:border-hairline data-[state=checked]:border-accent data-[state=checked]:bg-accent data-[state=checked]:text-on-accent';

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
        className={`size-5 ${BOX}`}
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

/** Yes or no of what stands beside it: its label is heard, not seen. */
export function BareCheck({ label, value, onChange }: { label: string } & Omit<CheckProps, 'label' | 'disabled'>) {
  return (
    <Checkbox.Root
      aria-label={label}
      checked={value}
      onCheckedChange={(next) => onChange(next === true)}
      className={`size-6 ${BOX}`}
    >
      <Checkbox.Indicator>
        <Tick />
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}
