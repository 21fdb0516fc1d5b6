import { type ComponentProps, useId } from 'react';

export type FieldProps = ComponentProps<'input'> & { label: string; help?: string };

/** A labelled line of input. */
export function Field({ label, help, className = '', ...rest }: FieldProps) {
  const id = useId();
  return (
    <div className={`flex flex-col gap-1 ${className}`}>
      <label htmlFor={id} className="text-xs text-soft-ink">
        {label}
      </label>
      <input
        id={id}
        {...rest}
        {...(help ? { 'aria-describedby': `${id}-help` } : {})}
        className="h-8 rounded-md border border-strong-line bg-raised px-2 text-base text-ink"
      />
      {help && (
        <p id={`${id}-help`} className="text-xs text-soft-ink">
          {help}
        </p>
      )}
    </div>
  );
}
