import { useId } from 'react';

export type SelectProps<T extends string> = {
  label: string;
  value: T;
  options: readonly { value: T; label: string; disabled?: boolean }[];
  onChange: (value: T) => void;
  /** Label and field in one line. */
  inline?: boolean;
  disabled?: boolean;
};

/** One of several, from a list that opens: the system's own, which every keyboard and reader knows. */
export function Select<T extends string>({ label, value, options, onChange, inline, disabled }: SelectProps<T>) {
  const id = useId();
  return (
    <div className={inline ? 'flex items-center gap-2' : 'flex flex-col gap-1'}>
      <label htmlFor={id} className={inline ? 'flex-1' : 'text-xs text-soft-ink'}>
        {label}
      </label>
      <select
        id={id}
        value={value}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value as T)}
        className={`${inline ? 'h-7' : 'h-8 w-full'} rounded-md border border-strong-line bg-raised px-1.5 text-sm text-ink disabled:opacity-45`}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value} disabled={option.disabled}>
            {option.label}
          </option>
        ))}
      </select>
    </div>
  );
}
