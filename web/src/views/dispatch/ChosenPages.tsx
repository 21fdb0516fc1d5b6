import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { exportFormsQuery, useExport } from '@/api/binding';
import type { ExportAsked, PageRow } from '@/api/types';
import { namedPages, pagesNamed } from '@/engine/dispatch/pages';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Pop } from '@/ui/Pop';
import { Select } from '@/ui/Select';

export type ChosenPagesProps = {
  stackId: number;
  pages: readonly PageRow[];
  /** Those that are chosen among the pages of the stack. */
  chosen: readonly PageRow[];
  /** They are being made a document of their own. */
  onMade: (document: number) => void;
};

/** Some pages of the stack as a document of their own, to be sent. */
export function ChosenPages({ stackId, pages, chosen, onMade }: ChosenPagesProps) {
  const { data: forms = [] } = useQuery(exportFormsQuery);
  const { mutate, isPending } = useExport(stackId);
  const [open, setOpen] = useState(false);
  const [text, setText] = useState(() => namedPages(chosen.map(({ number }) => number)));
  const [form, setForm] = useState<ExportAsked['form']>('pdf');
  const named = pagesNamed(text, pages);
  const wrong = 'wrong' in named ? named.wrong : '';
  const make = () => {
    if ('wrong' in named) return;
    mutate(
      { form, first: null, pages: named.ids, two_tones: false },
      {
        onSuccess: ({ id }) => {
          setOpen(false);
          onMade(id);
        },
      },
    );
  };
  return (
    <Pop
      label="Some pages"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button size="small" className="self-start">
          Some pages …
        </Button>
      }
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          make();
        }}
      >
        <Field
          label="Pages"
          value={text}
          placeholder="3, 7–9"
          wrong={text.trim() ? wrong : ''}
          maxLength={2000}
          autoComplete="off"
          onChange={({ target }) => setText(target.value)}
        />
        <Select
          label="As"
          value={form}
          options={forms.map(({ name, purpose }) => ({
            value: name as ExportAsked['form'],
            label: `${name.toUpperCase()}: ${purpose}`,
          }))}
          onChange={setForm}
        />
        <Button kind="main" type="submit" className="self-start" disabled={isPending} why={wrong}>
          Make it
        </Button>
      </form>
    </Pop>
  );
}
