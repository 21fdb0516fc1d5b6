import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { exportFormsQuery, useExport } from '@/api/binding';
import type { ExportAsked, PageRow } from '@/api/types';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Select } from '@/ui/Select';

type Scope = 'document' | 'page' | 'stack';
export type ExportsProps = {
  stackId: number;
  page: PageRow | undefined;
  /** The page that the document in hand begins with. */
  first: number | undefined;
  documents: number;
  /** Why nothing can be exported now. */
  why: string;
};

/** Pages in other forms than PDF: text to be edited, tables, pictures, a bag for an archive. */
export function Exports({ stackId, page, first, documents, why }: ExportsProps) {
  const { data: forms = [] } = useQuery(exportFormsQuery);
  const [form, setForm] = useState<ExportAsked['form']>('docx');
  const [scope, setScope] = useState<Scope>('document');
  const [twoTones, setTwoTones] = useState(false);
  const { mutate, isPending } = useExport(stackId);
  const scopes: { value: Scope; label: string }[] = [
    { value: 'document', label: 'This document' },
    { value: 'page', label: `Page ${page?.number ?? ''} alone` },
    ...(documents > 1 ? [{ value: 'stack' as const, label: `All ${documents} documents as one` }] : []),
  ];
  const give = () => {
    if (why || !page || first === undefined) return;
    mutate({
      form,
      first: scope === 'document' ? first : null,
      pages: scope === 'page' ? [page.id] : [],
      two_tones: form === 'tiff' && twoTones,
    });
  };
  useCommands([
    {
      name: 'give out',
      label: 'Export in another form',
      key: 'Shift+e',
      subject: 'Changes',
      enabled: !why && !isPending,
      perform: give,
    },
  ]);
  return (
    <section aria-label="Export" className="flex flex-col gap-3 border-b border-hairline px-4 py-4">
      <Select
        label="Export as"
        value={form}
        options={forms.map(({ name, purpose }) => ({
          value: name as ExportAsked['form'],
          label: `${name.toUpperCase()}: ${purpose}`,
        }))}
        onChange={setForm}
      />
      <Select label="Of" hidden value={scope} options={scopes} onChange={setScope} />
      {form === 'tiff' && <Check label="Bitonal, by Group 4" value={twoTones} onChange={setTwoTones} />}
      <Button shortcut="⇧E" spread="between" disabled={isPending} why={why} className="self-start" onClick={give}>
        Export
      </Button>
    </section>
  );
}
