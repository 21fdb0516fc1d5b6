import { useState } from 'react';
import { Field } from './Field';

export type KeptFieldProps = {
  label: string;
  value: string;
  /** What it is where nobody has said it. */
  otherwise?: string;
  help?: string | undefined;
  disabled: boolean;
  maxLength?: number;
  className?: string;
  id?: string;
  onKeep: (text: string) => void;
  /** Enter was pressed, and what was typed is kept. */
  onEnter?: () => void;
};

/** A field whose text is kept when it is left, or Enter is pressed; Escape takes back what was typed. */
export function KeptField(props: KeptFieldProps) {
  const { label, value, otherwise = '', help, disabled, maxLength = 2000, className, id, onKeep, onEnter } = props;
  const [typed, setTyped] = useState<string>();
  const done = () => {
    if (typed !== undefined && typed.trim() !== value) onKeep(typed);
    setTyped(undefined);
  };
  return (
    <Field
      label={label}
      help={help}
      value={typed ?? value}
      placeholder={otherwise}
      disabled={disabled}
      maxLength={maxLength}
      {...(className ? { className } : {})}
      {...(id ? { id } : {})}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          done();
          onEnter?.();
        }
        if (event.key === 'Escape' && typed !== undefined) {
          event.stopPropagation();
          setTyped(undefined);
        }
      }}
    />
  );
}
