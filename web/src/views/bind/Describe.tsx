import { Link } from 'wouter';
import type { Described, DraftDocument } from '@/api/types';
import { cellOf, saidWith } from '@/engine/describing/table';
import { Button } from '@/ui/Button';
import { KeptField } from '@/ui/KeptField';
import { listed } from '@/words/binding';
import { type Column, STATEMENT_WORDS } from '@/words/describing';

const FIELDS: readonly { name: Column; help?: string }[] = [
  { name: 'creators', help: 'Several with a semicolon between them.' },
  { name: 'date', help: '1927, 1927-02 or 1927-02-11; anything else is kept as it is written.' },
  { name: 'identifier' },
  { name: 'subjects', help: 'Several with a semicolon between them.' },
  { name: 'description' },
  { name: 'rights' },
  { name: 'type', help: 'A letter, a log book: a word of the list that your archive keeps.' },
  { name: 'relations', help: 'Identifiers of what belongs to it, with a semicolon between them.' },
];

export type DescribeProps = {
  /** The page that the document begins with, by which it is known. */
  first: number;
  title: string;
  said: DraftDocument | undefined;
  /** What holds for it as a part of its stack, where nothing is said of it alone. */
  otherwise: Described;
  /** Where all documents are described at once, where there are several. */
  all: string | undefined;
  may: boolean;
  onSay: (said: DraftDocument) => void;
};

/** What is said of a document to come: kept when a field is left. */
export function Describe({ first, title, said, otherwise, all, may, onSay }: DescribeProps) {
  const now = said ?? { title: '', described: {} };
  return (
    <div className="flex flex-col gap-3 px-4 py-4">
      {all && (
        <Button asChild size="small" shortcut="⇧M" spread="between">
          <Link href={all}>All documents in a table</Link>
        </Button>
      )}
      <KeptField
        key={`${first} title`}
        label="Title"
        value={said?.title || title}
        disabled={!may}
        maxLength={200}
        onKeep={(text) => onSay(saidWith(now, 'title', text))}
      />
      {FIELDS.map(({ name, help }) => (
        <KeptField
          key={`${first} ${name}`}
          label={STATEMENT_WORDS[name] ?? name}
          help={help}
          value={cellOf(now, name)}
          otherwise={listed(otherwise[name])}
          disabled={!may}
          onKeep={(text) => onSay(saidWith(now, name, text))}
        />
      ))}
    </div>
  );
}
