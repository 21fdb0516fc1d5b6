import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { deliveriesQuery, useDispatch } from '@/api/dispatch';
import type { Delivery, Shown } from '@/api/types';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { Failed, Loading } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { remark, type Stands, standing } from '@/words/dispatch';
import { bytes, count, when } from '@/words/figures';

export type DeliveriesProps = {
  /** Of one stack; of all where none is given. */
  stackId?: number;
  may: boolean;
  onCheck: () => void;
  /** In the place of an empty list. */
  children: ReactNode;
};

const SHOWN: { value: Shown; label: string }[] = [
  { value: 'all', label: 'All' },
  { value: 'open', label: 'On the way' },
  { value: 'stuck', label: 'Waiting for you' },
  { value: 'arrived', label: 'Arrived' },
  { value: 'missing', label: 'Lost since' },
];

/** What is on its way, and the receipts of what has arrived; the newest first. */
export function Deliveries({ stackId, may, onCheck, children }: DeliveriesProps) {
  const [show, setShow] = useState<Shown>('all');
  const { data, error, refetch } = useQuery(deliveriesQuery(stackId, show));
  const of = stackId ? `?stack=${stackId}` : '';
  if (!data)
    return error ? (
      <Failed message={error.message} retry={() => refetch()} />
    ) : (
      <Loading label="Loading receipts" className="h-40" />
    );
  if (data.counts.all === 0) return children;
  return (
    <section aria-label="Deliveries and receipts" className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-title font-semibold">Deliveries and receipts</h2>
        <Select
          label="Which are shown"
          hidden
          value={show}
          options={SHOWN.map(({ value, label }) => ({ value, label: `${label}, ${count(data.counts[value] ?? 0)}` }))}
          onChange={setShow}
        />
        {may && (
          <Button size="small" shortcut="⇧L" onClick={onCheck}>
            Look again
          </Button>
        )}
        <Button asChild size="small">
          <a href={`/api/v1/receipts.csv${of}`} download>
            CSV
          </a>
        </Button>
        <Button asChild size="small">
          <a href={`/api/v1/receipts.json${of}`} download="receipts.json">
            JSON
          </a>
        </Button>
      </div>
      {data.deliveries.length === 0 ? (
        <p className="text-soft">There are none of these.</p>
      ) : (
        <ul className="flex flex-col border-t border-hairline">
          {inOrder(data.deliveries).map((one) => (
            <Row key={one.id} one={one} may={may} ofStack={stackId !== undefined} />
          ))}
        </ul>
      )}
      {data.more && <p className="text-small text-soft">Older ones are in the CSV file.</p>}
    </section>
  );
}

/** What asks for somebody first, then what is on its way; else the newest first. */
function inOrder(deliveries: readonly Delivery[]): Delivery[] {
  const rank = (one: Delivery) => ({ asks: 0, held: 1, going: 1, arrived: 2, over: 2 })[standing(one).stands];
  return [...deliveries].sort((one, other) => rank(one) - rank(other));
}

function Row({ one, may, ofStack }: { one: Delivery; may: boolean; ofStack: boolean }) {
  const { stands, words } = standing(one);
  const said = remark(one);
  const [open, setOpen] = useState(false);
  return (
    <li className="grid grid-cols-[1.25rem_minmax(0,1fr)_auto] gap-x-3 border-b border-hairline py-2.5">
      <Sign stands={stands} />
      <div className="flex min-w-0 flex-col gap-0.5">
        <p className="flex min-w-0 flex-wrap items-baseline gap-x-3">
          <Clipped text={ofStack ? one.title : `${one.title} · ${one.stack_name}`} className="max-w-80 font-semibold" />
          <span>{one.destination_name}</span>
          <span className={stands === 'asks' ? 'font-semibold' : 'text-soft'}>
            {one.looking ? 'is looked at again' : words}
          </span>
        </p>
        <p className="flex min-w-0 gap-x-3 text-small text-soft">
          <Clipped text={place(one)} className="font-mono" />
          {one.bytes > 0 && <span className="font-mono whitespace-nowrap">{bytes(one.bytes)}</span>}
          <span className="whitespace-nowrap">{when(one.arrived_at ?? one.asked_at)}</span>
          {one.checked_at && <span className="whitespace-nowrap">looked at {when(one.checked_at)}</span>}
        </p>
        {said && (
          <p role="status" className="mt-1 border-l-3 border-ink pl-3 text-small">
            {said}
          </p>
        )}
        {open && <Receipt one={one} />}
      </div>
      <Hands one={one} may={may} open={open} onOpen={() => setOpen(!open)} />
    </li>
  );
}

/** What was delivered, how its arrival is known, and who asked for it. */
function Receipt({ one }: { one: Delivery }) {
  return (
    <div className="mt-1 text-small text-soft">
      <p className="break-all">
        {one.proof === 'read' ? 'Lies at' : 'Went'} <span className="font-mono select-text">{place(one)}</span>
      </p>
      <p className="break-all">
        SHA-256 <span className="font-mono select-text">{one.sha256}</span>
      </p>
      {one.answer && (
        <p className="break-all">
          The server said <span className="font-mono select-text">{one.answer}</span>
        </p>
      )}
      <p>
        Asked for by {one.asked_by || 'somebody who is no longer here'}, {when(one.asked_at)}
      </p>
    </div>
  );
}

function place(one: Delivery): string {
  if (one.recipients.length) return `to ${one.recipients.join(', ')}`;
  return one.where || one.name;
}

/** What can be done with a delivery, as it stands. */
function Hands({ one, may, open: shown, onOpen }: { one: Delivery; may: boolean; open: boolean; onOpen: () => void }) {
  const { steer, check } = useDispatch();
  const hand = (label: string, what: 'hold' | 'release' | 'cancel' | 'again') => (
    <Button
      size="small"
      disabled={steer.isPending}
      aria-label={`${label}: ${one.title}, ${one.destination_name}`}
      onClick={() => steer.mutate({ id: one.id, what })}
    >
      {label}
    </Button>
  );
  const open = one.state !== 'arrived' && one.state !== 'cancelled' && one.state !== 'stuck';
  return (
    <div className="flex flex-wrap items-start justify-end gap-2">
      {one.state === 'arrived' && (
        <Button
          kind="quiet"
          size="small"
          aria-expanded={shown}
          aria-label={`Receipt of ${one.title}, ${one.destination_name}`}
          onClick={onOpen}
        >
          Receipt
        </Button>
      )}
      {one.state === 'arrived' && one.proof === 'read' && (
        <Button asChild size="small">
          <a
            href={`/api/v1/deliveries/${one.id}/file`}
            target="_blank"
            rel="noreferrer"
            aria-label={`Open ${one.title} there: ${one.destination_name}`}
          >
            Open there
          </a>
        </Button>
      )}
      {may && one.state === 'arrived' && one.proof === 'read' && (
        <Button
          size="small"
          disabled={one.looking}
          aria-label={`Look again at ${one.title}, ${one.destination_name}`}
          onClick={() => check.mutate({ deliveries: [one.id] })}
        >
          Look again
        </Button>
      )}
      {may && open && one.next_try_at && hand('Now', 'again')}
      {may && open && (one.held ? hand('Go on', 'release') : hand('Hold', 'hold'))}
      {may && (one.state === 'stuck' || one.state === 'cancelled') && hand('Send again', 'again')}
      {may && (open || one.state === 'stuck') && hand('Give up', 'cancel')}
    </div>
  );
}

const SIGNS: Record<Stands, ReactNode> = {
  going: <path d="M2 6h.01M6 6h.01M10 6h.01" stroke="currentColor" strokeWidth="2" strokeLinecap="round" />,
  arrived: <path d="M2 6.4 4.8 9.2 10 3.2" fill="none" stroke="currentColor" strokeWidth="1.6" />,
  held: <path d="M4 2v8M8 2v8" stroke="currentColor" strokeWidth="1.8" />,
  asks: <path d="M1 1h10v10H1z" fill="currentColor" />,
  over: <path d="M1 5.2h10v1.6H1z" fill="currentColor" />,
};

/** How a delivery stands, by shape; its words stand beside it. */
function Sign({ stands }: { stands: Stands }) {
  return (
    <svg viewBox="0 0 12 12" className="mt-1.5 size-3" aria-hidden="true">
      {SIGNS[stands]}
    </svg>
  );
}
