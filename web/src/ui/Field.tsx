import { type ComponentProps, useId } from 'react';

export type FieldProps = ComponentProps<'input'> & {
  label: string;
  help?: string | undefined;
  /** What is wrong with what was typed. */
  wrong?: string | undefined;
  /** Label and field in one line. */
  inline?: boolean;
};

export const INPUT =
  'min-h-9 min-w-0 rounded-md border border-control bg-panel px-2.5 text-ink placeholder:text-soft aria-invalid:border-fail aria-invalid:border-2';

/** A labelled line of input. */
export function Field({ label, help, wrong, inline, className = '', id: named, ...rest }: FieldProps) {
  const made = useId();
  const id = named ?? made;
  return (
    <div className={`flex ${inline ? 'flex-wrap items-center gap-x-3 gap-y-1' : 'flex-col gap-1'} ${className}`}>
      <label htmlFor={id} className={inline ? '' : 'text-small text-soft'}>
        {label}
      </label>
      <input
        id={id}
        {...rest}
        {...(wrong ? { 'aria-invalid': true } : {})}
        {...(help || wrong ? { 'aria-describedby': `${id}-help` } : {})}
        className={INPUT}
      />
      {(help || wrong) && (
        <p id={`${id}-help`} className={`text-small ${wrong ? 'text-ink' : 'text-soft'}`}>
          {wrong || help}
        </p>
      )}
    </div>
  );
}
