import { Link } from 'wouter';
import type { DraftDocument } from '@/api/types';
import { Button } from '@/ui/Button';
import { KeptField } from '@/ui/KeptField';
import { listed, parted } from '@/words/binding';

type Name = 'creators' | 'date' | 'identifier' | 'subjects' | 'description' | 'rights' | 'type' | 'relations';
const FIELDS: readonly { name: Name; label: string; help?: string; many?: boolean }[] = [
  { name: 'creators', label: 'From', help: 'Several with a semicolon between them.', many: true },
  { name: 'date', label: 'Date', help: '1927, 1927-02 or 1927-02-11; anything else is kept as it is written.' },
  { name: 'identifier', label: 'Identifier' },
  { name: 'subjects', label: 'Subjects', help: 'Several with a semicolon between them.', many: true },
  { name: 'description', label: 'Description' },
  { name: 'rights', label: 'Rights' },
  { name: 'type', label: 'Type', help: 'A letter, a log book: a word of the list that your archive keeps.' },
  {
    name: 'relations',
    label: 'Related',
    help: 'Identifiers of what belongs to it, with a semicolon between them.',
    many: true,
  },
];

export type DescribeProps = {
  /** The page that the document begins with, by which it is known. */
  first: number;
  title: string;
  said: DraftDocument | undefined;
  /** Where all documents are described at once, where there are several. */
  all: string | undefined;
  may: boolean;
  onSay: (said: DraftDocument) => void;
};

/** What is said of a document to come: kept when a field is left. */
export function Describe({ first, title, said, all, may, onSay }: DescribeProps) {
  const described = said?.described ?? {};
  const keep = (name: Name, text: string, many: boolean | undefined) => {
    const { [name]: _, ...rest } = described;
    const value = many ? parted(text) : text.trim();
    onSay({ title: said?.title ?? '', described: value.length ? { ...rest, [name]: value } : rest });
  };
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
        onKeep={(text) => onSay({ title: text.trim(), described })}
      />
      {FIELDS.map(({ name, label, help, many }) => (
        <KeptField
          key={`${first} ${name}`}
          label={label}
          help={help}
          value={listed(described[name])}
          disabled={!may}
          onKeep={(text) => keep(name, text, many)}
        />
      ))}
    </div>
  );
}
