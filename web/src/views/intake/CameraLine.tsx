import type { PageRow } from '@/api/types';
import type { Table } from '@/hooks/useTable';
import { Field } from '@/ui/Field';
import { Word, Written } from '@/ui/Word';

export type CameraLineProps = { table: Table; page: PageRow | undefined };

const HERE = 'here';

/** What the camera will take, as a sentence; each piece of it can be changed where it stands. */
export function CameraLine({ table, page }: CameraLineProps) {
  const { camera, instead, setInstead } = table;
  const { source } = camera.seen;
  const one = instead !== undefined;
  return (
    <p className="min-h-16 text-title leading-8" data-testid="slip">
      <Word
        label="Camera"
        value={HERE}
        options={[
          { value: HERE, label: source?.name ?? 'The camera' },
          ...(source?.others ?? []).map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(id) => id !== HERE && camera.open(id)}
      />{' '}
      photographs{' '}
      <Word
        label="What is photographed"
        value={table.facing ? 'facing' : 'one'}
        options={[
          { value: 'one', label: 'one page' },
          { value: 'facing', label: 'two facing pages' },
        ]}
        onChange={(what) => table.change({ facing: what === 'facing' })}
      />{' '}
      at a time, names {one ? 'it' : 'them'}{' '}
      <Written label="File names begin with" text={table.name.trim() || 'page'}>
        <Field
          label="File names begin with"
          maxLength={80}
          value={table.name}
          onChange={({ target }) => table.change({ name: target.value })}
          help="A number is added: page 001, page 002 and so on."
        />
      </Written>{' '}
      and puts {one ? 'it' : 'them'}{' '}
      <Word
        label="Goes in"
        value={one ? 'instead' : 'end'}
        options={[
          { value: 'end', label: 'at the end' },
          {
            value: 'instead',
            label: `in place of page ${(instead ?? page)?.number ?? ''}`,
            disabled: !instead && !page,
          },
        ]}
        onChange={(where) => setInstead(where === 'instead' ? (instead ?? page) : undefined)}
      />
      .
    </p>
  );
}
