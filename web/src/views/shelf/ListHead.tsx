import { useId, useState } from 'react';
import { useKeepView } from '@/api/shelf';
import type { Shelf } from '@/api/types';
import { ALL, type ShelfAsked, SORTS, SPANS, searchOf } from '@/engine/shelf/asked';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';
import { Pop } from '@/ui/Pop';
import { Select } from '@/ui/Select';
import { counted } from '@/words/figures';
import { SORT_WORDS, SPAN_WORDS } from '@/words/shelf';
import type { Laid } from './StackList';

export type ListHeadProps = {
  asked: ShelfAsked;
  onAsk: (some: Partial<ShelfAsked>) => void;
  shelf: Shelf | undefined;
  count: number;
  laid: Laid;
  onLaid: (laid: Laid) => void;
};

const ANYBODY = '\u2060anybody';

/** How many stacks there are, by whom and since when, in which order, and how they are shown. */
export function ListHead({ asked, onAsk, shelf, count, laid, onLaid }: ListHeadProps) {
  const people = [...new Set([...(shelf?.people ?? []), ...(asked.by ? [asked.by] : [])])];
  return (
    <div className="mb-1 flex min-h-9 flex-wrap items-center gap-2">
      <p role="status" className="mr-auto font-mono text-small text-soft">
        {counted(count, 'stack')}
      </p>
      {searchOf(asked) !== '' && <KeepView asked={asked} />}
      {people.length > 1 && (
        <Select
          label="Begun by"
          hidden
          value={asked.by || ANYBODY}
          onChange={(by) => onAsk({ by: by === ANYBODY ? '' : by })}
          options={[ANYBODY, ...people].map((value) => ({
            value,
            label: value === ANYBODY ? 'Begun by anybody' : `Begun by ${value}`,
          }))}
        />
      )}
      <Select
        label="Begun"
        hidden
        value={String(asked.span)}
        onChange={(span) => onAsk({ span: SPANS.find((one) => String(one) === span) ?? 0 })}
        options={SPANS.map((span) => ({ value: String(span), label: SPAN_WORDS[span] }))}
      />
      <Select
        label="First"
        hidden
        value={asked.sort}
        onChange={(sort) => onAsk({ sort })}
        options={SORTS.map((value) => ({ value, label: SORT_WORDS[value] }))}
      />
      <Choice
        label="How stacks are shown"
        value={laid}
        onChange={onLaid}
        options={[
          { value: 'rows', label: 'Rows' },
          { value: 'cards', label: 'Cards' },
        ]}
      />
    </div>
  );
}

function KeepView({ asked }: { asked: ShelfAsked }) {
  const id = useId();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const keep = useKeepView();
  return (
    <Pop
      label="Keep this view"
      open={open}
      onOpenChange={setOpen}
      trigger={<Button kind="quiet">Keep this view …</Button>}
    >
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(
            { name, asked: searchOf({ ...ALL, ...asked }) },
            {
              onSuccess: () => {
                setOpen(false);
                setName('');
              },
            },
          );
        }}
      >
        <Field
          id={id}
          label="Name"
          maxLength={60}
          required
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <Button kind="main" type="submit" disabled={keep.isPending || !name.trim()}>
          Keep
        </Button>
      </form>
    </Pop>
  );
}
