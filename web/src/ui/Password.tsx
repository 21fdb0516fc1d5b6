import { Field } from './Field';

export type PasswordProps = {
  label?: string;
  /** A password that is made, not asked for: what it must be is said. */
  fresh?: boolean;
  value: string;
  onChange: (value: string) => void;
};

/** A password, which the browser may keep or propose. */
export function Password({ label = 'Password', fresh = false, value, onChange }: PasswordProps) {
  return (
    <Field
      label={label}
      {...(fresh ? { help: '12 characters or more; three or four words make a good one.' } : {})}
      type="password"
      autoComplete={fresh ? 'new-password' : 'current-password'}
      required
      value={value}
      onChange={({ target }) => onChange(target.value)}
    />
  );
}
