import { useEffect, useState } from 'react';
import { Field } from '@/ui/Field';

export type LineProps = {
  label: string;
  value: string;
  help?: string;
  onSay: (text: string) => void;
  type?: 'text' | 'password';
};

/** A line of input that is said when it is left, or by Enter. */
export function Line({ label, value, help, onSay, type = 'text' }: LineProps) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const say = () => text !== value && onSay(text);
  return (
    <Field
      label={label}
      type={type}
      value={text}
      help={help}
      autoComplete="off"
      onChange={({ target }) => setText(target.value)}
      onBlur={say}
      onKeyDown={({ key }) => key === 'Enter' && say()}
    />
  );
}
