import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { collectionsQuery, useDeleteCollection, useSayCollection } from '@/api/shelf';
import type { Collection, CollectionSaid } from '@/api/types';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { counted } from '@/words/figures';
import { LEVEL_WORDS, pathWords } from '@/words/shelf';

type Edited = { id: number | null; said: CollectionSaid };

/** The tree that papers are kept in: making collections, naming, moving and deleting them. */
export function CollectionsSheet({ onClose }: { onClose: () => void }) {
  const { data: collections = [] } = useQuery(collectionsQuery);
  const [edited, setEdited] = useState<Edited>();
  const remove = useDeleteCollection();
  const add = (parent: number | null) => setEdited({ id: null, said: { name: '', level: '', identifier: '', parent } });
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title="Collections"
      wide
      beside={
        <Button size="small" onClick={() => add(null)}>
          New at the top
        </Button>
      }
    >
      {edited && (
        <CollectionForm
          key={`${edited.id} ${edited.said.parent}`}
          edited={edited}
          collections={collections}
          onDone={() => setEdited(undefined)}
        />
      )}
      {collections.length === 0 ? (
        !edited && (
          <p className="text-soft">There are none yet: a fonds, a series, a box, whatever papers are parted into.</p>
        )
      ) : (
        <ul>
          {collections.map((one) => (
            <li
              key={one.id}
              className="flex min-h-10 flex-wrap items-center gap-x-4 border-t border-hairline py-1"
              style={{ paddingLeft: `${1.25 * (one.names.length - 1)}rem` }}
            >
              <span className="min-w-0 flex-1 basis-48 truncate" title={pathWords(one.names)}>
                {one.name}
                <span className="pl-3 text-small text-soft">
                  {[one.level && LEVEL_WORDS[one.level], one.identifier].filter(Boolean).join(' · ')}
                </span>
              </span>
              <span className="font-mono text-small text-soft">{counted(one.stacks, 'stack')}</span>
              <span className="flex gap-1">
                <Button
                  size="small"
                  aria-label={`Change ${one.name}`}
                  onClick={() => setEdited({ id: one.id, said: one })}
                >
                  Change
                </Button>
                <Button size="small" aria-label={`New in ${one.name}`} onClick={() => add(one.id)}>
                  New in it
                </Button>
                <Button size="small" aria-label={`Delete ${one.name}`} onClick={() => remove.mutate(one.id)}>
                  Delete
                </Button>
              </span>
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}

type FormProps = { edited: Edited; collections: readonly Collection[]; onDone: () => void };

function CollectionForm({ edited: { id, said: before }, collections, onDone }: FormProps) {
  const [said, setSaid] = useState<CollectionSaid>(before);
  const say = useSayCollection();
  const own = collections.find((one) => one.id === id);
  // It cannot be put into itself, nor into what is in it.
  const places = collections.filter((one) => !own?.names.every((name, at) => one.names[at] === name));
  return (
    <form
      className="mb-4 flex flex-wrap items-end gap-3 rounded-md border border-hairline p-3"
      onSubmit={(event) => {
        event.preventDefault();
        const { name, level, identifier, parent } = said;
        const body = {
          name,
          level: level ?? ('' as const),
          identifier: identifier ?? '',
          parent: parent ?? null,
        };
        say.mutate({ id, said: body }, { onSuccess: onDone });
      }}
    >
      <Field
        label="Name"
        className="flex-1 basis-56"
        required
        maxLength={200}
        autoFocus
        value={said.name}
        onChange={({ target }) => setSaid({ ...said, name: target.value })}
      />
      <Select
        label="Level"
        value={said.level || NONE}
        onChange={(level) => setSaid({ ...said, level: LEVELS.find((one) => one === level) ?? '' })}
        options={LEVELS.map((level) => ({ value: level || NONE, label: LEVEL_WORDS[level] }))}
      />
      <Field
        label="Identifier"
        className="basis-36"
        maxLength={80}
        value={said.identifier ?? ''}
        onChange={({ target }) => setSaid({ ...said, identifier: target.value })}
      />
      <Select
        label="In"
        value={said.parent ? String(said.parent) : TOP}
        onChange={(parent) => setSaid({ ...said, parent: parent === TOP ? null : Number(parent) })}
        options={[
          { value: TOP, label: 'The top' },
          ...places.map((one) => ({ value: String(one.id), label: pathWords(one.names) })),
        ]}
      />
      <Button kind="main" type="submit" disabled={say.isPending || !said.name.trim()}>
        {id === null ? 'Add' : 'Keep'}
      </Button>
      <Button kind="quiet" onClick={onDone}>
        Cancel
      </Button>
    </form>
  );
}

const TOP = 'top';
const NONE = 'none';
const LEVELS = ['', 'fonds', 'series', 'box', 'folder'] as const;
