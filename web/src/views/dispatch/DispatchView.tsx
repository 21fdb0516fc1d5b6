import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'wouter';
import { destinationsQuery, papersQuery, useDispatch } from '@/api/dispatch';
import { useMay } from '@/api/people';
import { documentsQuery } from '@/api/queries';
import type { BoundDocument, Destination, MessageAsked, PageRow } from '@/api/types';
import { notify } from '@/engine/notices';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Empty, Failed, Loading } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { PROFILES } from '@/words/binding';
import { KINDS, whereWords } from '@/words/dispatch';
import { bytes, counted } from '@/words/figures';
import { ChosenPages } from './ChosenPages';
import { Deliveries } from './Deliveries';
import { Going } from './Going';
import { Links } from './Links';

export type DispatchViewProps = {
  stackId: number;
  pages: readonly PageRow[];
  /** Pages of the stack that are chosen. */
  chosen: readonly PageRow[];
};

/** A stack's documents on their way: what is sent where, as it will be there; what is going, and the receipts. */
export function DispatchView({ stackId, pages, chosen }: DispatchViewProps) {
  const { data: documents, error, refetch } = useQuery(documentsQuery(stackId));
  const { data: destinations } = useQuery(destinationsQuery);
  if (documents && destinations)
    return (
      <Dispatcher stackId={stackId} pages={pages} among={chosen} documents={documents} destinations={destinations} />
    );
  return (
    <main className="flex min-w-0 flex-1 flex-col p-7">
      {error ? (
        <Failed message={error.message} retry={() => refetch()} />
      ) : (
        <Loading label="Loading documents and destinations" className="h-40" />
      )}
    </main>
  );
}

type DispatcherProps = {
  stackId: number;
  pages: readonly PageRow[];
  among: readonly PageRow[];
  documents: BoundDocument[];
  destinations: Destination[];
};

function Dispatcher({ stackId, pages, among, documents, destinations }: DispatcherProps) {
  const may = useMay('work');
  const { send, check } = useDispatch();
  const { data: papers } = useQuery(papersQuery(stackId));
  const [said, setChosen] = useState<ReadonlySet<number>>();
  const [to, setTo] = useState<ReadonlySet<number>>(new Set());
  const [messages, setMessages] = useState<Record<number, MessageAsked>>({});
  // Until something is chosen: what was bound last, together.
  const last = documents[0]?.created_at;
  const chosen = said ?? new Set(documents.filter((one) => one.created_at === last).map(({ id }) => id));
  const going = documents.filter(({ id, state }) => chosen.has(id) && state !== 'failed');
  const places = destinations.filter(({ id }) => to.has(id));
  const why = !may
    ? 'Only technicians and administrators send documents.'
    : going.length === 0
      ? 'No document is chosen.'
      : places.length === 0
        ? 'No destination is chosen.'
        : '';
  const dispatch = () =>
    send.mutate(
      { documents: going.map(({ id }) => id), destinations: places.map(({ id }) => id), messages },
      {
        onSuccess: (made) => {
          notify(`${counted(made.length, 'delivery', 'deliveries')} on the way.`);
          setTo(new Set());
          setMessages({});
        },
      },
    );
  useCommands([
    {
      name: 'send',
      label: 'Send',
      key: 'Shift+s',
      subject: 'Changes',
      enabled: !why && !send.isPending,
      perform: dispatch,
    },
    {
      name: 'look again',
      label: 'Look again where all of it lies',
      key: 'Shift+l',
      subject: 'Look',
      enabled: may,
      perform: () => check.mutate({ stack: stackId }),
    },
  ]);
  return (
    <main className="flex min-w-0 flex-1 flex-col lg:min-h-0 lg:flex-row">
      <section
        aria-label="To send"
        className="flex w-full shrink-0 flex-col border-r border-hairline bg-panel lg:min-h-0 lg:w-80"
      >
        <div className="flex min-h-0 flex-1 flex-col gap-6 overflow-y-auto px-5 py-4">
          <fieldset className="flex flex-col gap-2">
            <legend className="mb-2 text-title font-semibold">Documents</legend>
            {documents.length === 0 && <p className="text-soft">Nothing has been bound yet: bind first.</p>}
            {documents.map((one) => (
              <Check
                key={one.id}
                value={chosen.has(one.id) && one.state !== 'failed'}
                disabled={one.state === 'failed'}
                onChange={() => setChosen(turned(chosen, one.id))}
                label={<Document document={one} />}
              />
            ))}
            {may && pages.length > 0 && (
              <ChosenPages
                stackId={stackId}
                pages={pages}
                chosen={among}
                onMade={(id) => setChosen(new Set([...(said ?? []), id]))}
              />
            )}
          </fieldset>
          <fieldset className="flex flex-col gap-2">
            <legend className="mb-2 text-title font-semibold">Destinations</legend>
            {destinations.map((one) => (
              <Check
                key={one.id}
                value={to.has(one.id)}
                onChange={() => setTo(turned(to, one.id))}
                label={<Where destination={one} />}
              />
            ))}
            <p className="text-small">
              <Link href="/destinations" className="inline-flex min-h-6 items-center underline underline-offset-3">
                All destinations
              </Link>
            </p>
          </fieldset>
        </div>
        <div className="flex shrink-0 flex-col gap-2 border-t border-hairline px-5 py-3">
          <Button
            kind="main"
            shortcut="⇧S"
            spread="between"
            className="min-h-11 self-stretch"
            disabled={send.isPending}
            why={why}
            onClick={dispatch}
          >
            {places.length > 1 ? `Send to ${places.length} destinations` : 'Send'}
          </Button>
        </div>
      </section>
      <div className="flex min-w-0 flex-1 flex-col gap-8 overflow-y-auto px-7 py-5 lg:min-h-0">
        {places.length > 0 && going.length > 0 && (
          <section aria-label="As it will go" className="flex flex-col gap-4">
            <h2 className="text-title font-semibold">As it will go</h2>
            {places.map((one) => (
              <Going
                key={one.id}
                destination={one}
                documents={going}
                message={messages[one.id]}
                onMessage={(message) => setMessages({ ...messages, [one.id]: message })}
              />
            ))}
          </section>
        )}
        {papers && papers.may !== null && (
          <p className={`max-w-3xl border-l-3 pl-3 ${papers.may ? 'border-accent' : 'border-control'}`}>
            {papers.said}
          </p>
        )}
        {may && <Links stackId={stackId} documents={documents} />}
        <Deliveries stackId={stackId} may={may} onCheck={() => check.mutate({ stack: stackId })}>
          <Empty title="Nothing has been sent from this stack">
            Choose documents and destinations: what is sent is read back where it lies, and a receipt is kept of it.
          </Empty>
        </Deliveries>
      </div>
    </main>
  );
}

function turned(among: ReadonlySet<number>, id: number): ReadonlySet<number> {
  const next = new Set(among);
  if (!next.delete(id)) next.add(id);
  return next;
}

function Document({ document }: { document: BoundDocument }) {
  const { kind, state } = document;
  const what =
    kind === 'access' ? 'access copy' : kind === 'export' ? document.suffix.slice(1) : PROFILES[document.profile];
  return (
    <span className="flex min-w-0 flex-col">
      <Clipped text={document.title} />
      <span className="flex flex-wrap gap-x-3 text-small text-soft">
        <span>{what}</span>
        {document.bytes !== null && <span className="font-mono">{bytes(document.bytes)}</span>}
        {state === 'binding' && <span>goes as soon as it is bound</span>}
        {state === 'failed' && <span>could not be bound</span>}
      </span>
    </span>
  );
}

function Where({ destination }: { destination: Destination }) {
  const { place, tried_said, stuck } = destination;
  return (
    <span className="flex min-w-0 flex-col">
      <span className="flex items-baseline gap-2">
        <Clipped text={destination.name} />
        <span className="shrink-0 text-small text-soft">{KINDS[place.kind]}</span>
      </span>
      <Clipped text={whereWords(place)} className="text-small text-soft" />
      {tried_said && <span className="text-small">Did not work when it was tried.</span>}
      {stuck > 0 && <span className="text-small">{counted(stuck, 'delivery waits', 'deliveries wait')} for you.</span>}
    </span>
  );
}
