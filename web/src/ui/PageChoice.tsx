import { useState } from 'react';
import type { PageRow } from '@/api/types';
import { Button } from './Button';
import { Finder } from './Finder';
import { Pop } from './Pop';
import { Chevron } from './signs';

export type PageChoiceProps = {
  label: string;
  pages: readonly PageRow[];
  chosen: PageRow;
  onChoose: (id: number) => void;
};

/** One of thousands of pages, found by its number or its file. */
export function PageChoice({ label, pages, chosen, onChoose }: PageChoiceProps) {
  const [open, setOpen] = useState(false);
  return (
    <Pop
      label={label}
      open={open}
      onOpenChange={setOpen}
      className="w-96"
      trigger={
        <Button size="small" spread="between" className="w-full min-w-0">
          <span className="min-w-0 truncate">
            <span className="sr-only">{label}: </span>
            <span className="font-mono">{chosen.number}</span> {chosen.source}
          </span>
          <Chevron />
        </Button>
      }
    >
      <Finder
        label={label}
        items={pages.map(({ id, number, source }) => ({ id: String(id), text: `${number} ${source}` }))}
        chosen={String(chosen.id)}
        onChoose={(id) => {
          onChoose(Number(id));
          setOpen(false);
        }}
      />
    </Pop>
  );
}
