import { useNextNames } from '@/api/intake';
import type { Draft } from '@/engine/capture/slip';
import { Field } from '@/ui/Field';
import { NamesMade } from '@/ui/NamesMade';
import { nextWords } from '@/words/slips';

export type SlipNamingProps = { draft: Draft; slip: number | undefined; onNaming: (naming: string) => void };

/** The pattern by which a slip names its stacks, with the names that come next while it is written. */
export function SlipNaming({ draft, slip, onNaming }: SlipNamingProps) {
  const { data, error } = useNextNames(draft, slip);
  const names = [...new Set(data?.names)];
  return (
    // As high as it is with three names: nothing below moves while one is being written.
    <div className="flex min-h-52 flex-col gap-1.5">
      <Field
        label="Stacks and documents are named"
        maxLength={120}
        placeholder={draft.asks.includes('title') ? '{title}' : `${draft.name.trim() || 'Letters'} {date} {counter}`}
        help="{date}, {counter}, {title}, {written}, {box}, {shelf} and {position} are filled in; {counter:4} has four digits."
        value={draft.naming}
        onChange={({ target }) => onNaming(target.value)}
        autoComplete="off"
        wrong={error?.message}
      />
      {!error && data && (
        <NamesMade names={names.map((name) => ({ id: name, name }))}>{nextWords(names, data.zone)}</NamesMade>
      )}
    </div>
  );
}
