import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { placeholdersQuery, useTriedNames } from '@/api/dispatch';
import { Field } from '@/ui/Field';
import { NamesMade } from '@/ui/NamesMade';

export type NamesProps = {
  label: string;
  pattern: string;
  /** How many have been named by it. */
  counter: number;
  /** Whether a slash in it makes a folder. */
  folders: boolean;
};

/** A pattern of names, with the names that it makes of what was bound last while it is typed. */
export function Names({ label, pattern: first, counter, folders }: NamesProps) {
  const [pattern, setPattern] = useState(first);
  const { data: placeholders = [] } = useQuery(placeholdersQuery);
  const { data, error } = useTriedNames(pattern, counter);
  return (
    <div className="flex flex-col gap-1.5">
      <Field
        label={label}
        name="pattern"
        value={pattern}
        onChange={({ target }) => setPattern(target.value)}
        maxLength={300}
        autoComplete="off"
        wrong={error?.message}
        help={`Filled in: ${placeholders.map(({ name }) => `{${name}}`).join(' ')}.${folders ? ' A slash makes a folder.' : ''}`}
      />
      {!error && data && data.names.length > 0 && (
        <NamesMade
          names={data.names.map(({ title, name, twice }) => ({
            id: `${title} ${name}`,
            name,
            wrong: twice ? 'twice' : undefined,
          }))}
        >
          What was bound last. Dates and times are those of {data.zone}.
        </NamesMade>
      )}
    </div>
  );
}
