import { useQuery } from '@tanstack/react-query';
import { sharedDescriptionQuery, useMendShared } from '@/api/sharing';
import type { SharedDescription } from '@/api/types';
import { saidWith } from '@/engine/describing/table';
import { KeptField } from '@/ui/KeptField';
import { Loading } from '@/ui/States';
import { listed } from '@/words/binding';
import { type Column, STATEMENT_WORDS } from '@/words/describing';

const FIELDS: readonly Column[] = ['creators', 'date', 'subjects', 'description'];

/** What is said of a shared document, to be put right: kept when a field is left. */
export function SaidOfIt({ secret, visit }: { secret: string; visit: string }) {
  const { data, error } = useQuery(sharedDescriptionQuery(secret, visit));
  const { description } = useMendShared(secret, visit);
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return <Loading label="Loading what is said of it" className="h-10" />;
  const say = (column: Column, text: string) => {
    const { title, described }: SharedDescription = saidWith(data, column, text);
    description.mutate({ title, described });
  };
  return (
    <div className="grid gap-3 rounded-md bg-panel p-4 text-ink sm:grid-cols-2">
      {description.error && <p role="alert">{description.error.message}</p>}
      <KeptField
        label="Title"
        value={data.title}
        disabled={false}
        maxLength={200}
        onKeep={(text) => say('title', text)}
      />
      {FIELDS.map((name) => (
        <KeptField
          key={name}
          label={STATEMENT_WORDS[name] ?? name}
          value={listed(data.described[name])}
          disabled={false}
          onKeep={(text) => say(name, text)}
        />
      ))}
    </div>
  );
}
