import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { descriptionsQuery, type Said, tableAddress, useDescribe } from '@/api/describing';
import type { TablePlan } from '@/api/types';
import { filledDown, saidBefore, saidWith } from '@/engine/describing/table';
import { notify } from '@/engine/notices';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Empty, Failed, Loading } from '@/ui/States';
import { type Column, describedWords } from '@/words/describing';
import { counted } from '@/words/figures';
import { FirstPage } from './FirstPage';
import { Incoming } from './Incoming';
import { Offers } from './Offers';
import { Patterns } from './Patterns';
import { Table } from './Table';

export type DescribeViewProps = { stackId: number; name: string; ready: number; may: boolean; onLeave: () => void };

/** What is said of all documents to come, in a table: typed, filled down, taken in from a file and given out as one. */
export function DescribeView({ stackId, name, ready, may, onLeave }: DescribeViewProps) {
  const { data, error, refetch } = useQuery(descriptionsQuery(stackId, ready));
  const { say, plan, take } = useDescribe(stackId, ready);
  const [at, setAt] = useState(0);
  const [file, setFile] = useState<{ name: string; csv: string; plan: TablePlan }>();
  const [before, setBefore] = useState<Said>();
  const [patterns, setPatterns] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const documents = data?.documents ?? [];
  const row = documents[Math.max(0, Math.min(at, documents.length - 1))];
  const put = (said: Said) => {
    if (!may || !data) return;
    setBefore(saidBefore(data, said));
    say.mutate(said);
  };
  const fill = (column: Column, far: 'next' | 'all', text: string) => {
    const filled = filledDown(documents, at, column, far, text);
    if (Object.keys(filled).length) put({ documents: filled });
  };
  const choose = async (chosen: File | undefined) => {
    if (!chosen) return;
    if (chosen.size > MOST_BYTES) return notify('The file is larger than a table of descriptions can be: 5 MB.');
    const csv = await base64Of(chosen);
    plan.mutate(csv, { onSuccess: (made) => setFile({ name: chosen.name, csv, plan: made }) });
  };
  const takeIn = () =>
    file &&
    take.mutate(file.csv, {
      onSuccess: ({ lines }) => {
        const changed = lines.filter(({ changes }) => changes.length > 0);
        const described = new Set(changed.map((line) => line.document));
        setBefore({
          documents: Object.fromEntries(
            documents.filter(({ number }) => described.has(number)).map(({ page, said }) => [page, said]),
          ),
          ...(changed.some(({ whole }) => whole) ? { stack: data?.stack ?? {} } : {}),
        });
        notify(`Described anew: ${describedWords(changed)}.`);
        setFile(undefined);
      },
    });
  const undo = () => {
    if (!before || !data) return;
    const now = saidBefore(data, before);
    say.mutate(before, { onSuccess: () => setBefore(now) });
  };
  useCommands([
    {
      name: 'from file',
      label: 'Describe from a CSV file',
      key: 'Shift+c',
      subject: 'Changes',
      enabled: may,
      perform: () => picker.current?.click(),
    },
    { name: 'undo', label: 'Undo', key: 'z', subject: 'Changes', enabled: may && !!before, perform: undo },
    { name: 'bind', label: 'Back to Bind', key: 'b', subject: 'Go to', perform: onLeave },
  ]);
  if (!data)
    return (
      <main className="flex min-w-0 flex-1 flex-col p-7">
        {error ? (
          <Failed message={error.message} retry={() => refetch()} />
        ) : (
          <Loading label="Loading documents" className="h-40" />
        )}
      </main>
    );
  if (!row)
    return (
      <main className="flex-1">
        <Empty title="No document to describe yet">
          <p>Documents are made of pages that are ready: some are still being worked on, or all of them are aside.</p>
        </Empty>
      </main>
    );
  return (
    <main className="flex min-h-0 min-w-0 flex-1 flex-col lg:flex-row">
      <section aria-label="Descriptions" className="flex min-h-0 min-w-0 flex-1 flex-col gap-3 p-6">
        <div className="flex flex-wrap items-center gap-3">
          <h2 className="mr-auto text-title font-semibold">{counted(documents.length, 'document')} to come</h2>
          {may && (
            <Button size="small" shortcut="Z" disabled={!before || say.isPending} onClick={undo}>
              Undo
            </Button>
          )}
          <Button asChild size="small">
            <a href={tableAddress(stackId)} download>
              CSV
            </a>
          </Button>
          {may && (
            <Button size="small" shortcut="⇧C" disabled={plan.isPending} onClick={() => picker.current?.click()}>
              Describe from a CSV file …
            </Button>
          )}
          <input
            ref={picker}
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            hidden
            aria-label="CSV file"
            onChange={({ target }) => {
              choose(target.files?.[0]);
              target.value = '';
            }}
          />
        </div>
        <Table
          documents={documents}
          stack={{ name, described: data.stack, otherwise: data.otherwise }}
          at={at}
          may={may}
          onAt={setAt}
          onSay={(said) => put({ documents: said })}
          onSayOfStack={(stack) => put({ stack })}
          onFill={fill}
        />
        <p className="text-small text-soft">
          What the first row says of the whole stack holds for each document that says nothing else. Several creators,
          subjects or relations have a semicolon between them. In a field, Ctrl+D gives its text to the next document,
          Ctrl+Shift+D to all below.
        </p>
      </section>
      <FirstPage document={row}>
        <Offers
          key={row.page}
          stackId={stackId}
          page={row.page}
          may={may}
          onTake={(column, value) => put({ documents: { [row.page]: saidWith(row.said, column, value) } })}
          onPatterns={() => setPatterns(true)}
        />
      </FirstPage>
      {patterns && <Patterns stackId={stackId} may={may} onClose={() => setPatterns(false)} />}
      {file && (
        <Incoming
          name={file.name}
          plan={file.plan}
          busy={take.isPending}
          onTake={takeIn}
          onClose={() => setFile(undefined)}
        />
      )}
    </main>
  );
}

const MOST_BYTES = 5_000_000;

/** A file's bytes as the API takes them. */
function base64Of(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).split(',')[1] ?? '');
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(file);
  });
}
