import { useQuery } from '@tanstack/react-query';
import { collectionsQuery } from '@/api/shelf';
import { Select } from '@/ui/Select';

export type CollectionChoiceProps = { value: number | null; onChange: (collection: number | null) => void };

const ANYWHERE = 'anywhere';

/** In which collection stacks are filed, to choose among; nothing where there are no collections. */
export function CollectionChoice({ value, onChange }: CollectionChoiceProps) {
  const { data = [] } = useQuery(collectionsQuery);
  if (data.length === 0 && value === null) return null;
  const gone = value !== null && value !== 0 && !data.some(({ id }) => id === value);
  return (
    <Select
      label="Collection"
      hidden
      value={value === null ? ANYWHERE : String(value)}
      onChange={(chosen) => onChange(chosen === ANYWHERE ? null : Number(chosen))}
      options={[
        { value: ANYWHERE, label: 'Any collection' },
        ...data.map(({ id, name, names }) => ({
          value: String(id),
          label: `${'\u2003'.repeat(names.length - 1)}${name}`,
        })),
        { value: '0', label: 'Filed nowhere' },
        ...(gone ? [{ value: String(value), label: 'A collection that is gone' }] : []),
      ]}
    />
  );
}
