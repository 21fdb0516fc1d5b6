import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { destinationsQuery, useDestinations, useDispatch } from '@/api/dispatch';
import { useMay } from '@/api/people';
import type { Destination } from '@/api/types';
import { notify } from '@/engine/notices';
import { Button } from '@/ui/Button';
import { Part, Screen } from '@/ui/Screen';
import { Sheet } from '@/ui/Sheet';
import { Failed, Loading } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { KINDS, whereWords } from '@/words/dispatch';
import { counted, when } from '@/words/figures';
import { Deliveries } from './Deliveries';
import { DestinationForm } from './DestinationForm';

/** Where documents can be sent, each proven or not; and the receipts of all stacks. */
export function DestinationsView({ user }: { user: string }) {
  const { data, error, refetch } = useQuery(destinationsQuery);
  const may = useMay('destinations');
  const work = useMay('work');
  const { check } = useDispatch();
  const [open, setOpen] = useState<Destination | 'new'>();
  return (
    <Screen user={user} title="Destinations">
      {data ? (
        <div className="flex flex-col gap-4">
          <ul className="flex flex-col border-t border-hairline" aria-label="Destinations">
            {data.map((one) => (
              <Row key={one.id} one={one} may={may} onOpen={() => setOpen(one)} />
            ))}
            {data.length === 0 && (
              <li className="border-b border-hairline py-4 text-soft">
                There is none yet: documents go to folders, object storage, other machines by SFTP, and people by
                e-mail.
              </li>
            )}
          </ul>
          {may ? (
            <Button className="self-start" onClick={() => setOpen('new')}>
              New destination
            </Button>
          ) : (
            <p className="text-small text-soft">Administrators make destinations.</p>
          )}
        </div>
      ) : error ? (
        <Failed message={error.message} retry={() => refetch()} />
      ) : (
        <Loading label="Loading destinations" className="h-40" />
      )}
      <Deliveries may={work} onCheck={() => check.mutate({})}>
        <Part title="Deliveries and receipts">
          <p className="text-soft">Nothing has been sent yet.</p>
        </Part>
      </Deliveries>
      <Sheet
        open={open !== undefined}
        onOpenChange={(stays) => stays || setOpen(undefined)}
        title={open === 'new' ? 'New destination' : (open?.name ?? '')}
      >
        {open && <DestinationForm one={open === 'new' ? undefined : open} onDone={() => setOpen(undefined)} />}
      </Sheet>
    </Screen>
  );
}

function Row({ one, may, onOpen }: { one: Destination; may: boolean; onOpen: () => void }) {
  const { tryOut, remove } = useDestinations();
  return (
    <li className="flex flex-wrap items-start gap-x-4 gap-y-1 border-b border-hairline py-2.5">
      <div className="flex min-w-60 flex-1 flex-col gap-0.5">
        <p className="flex items-baseline gap-3">
          <Clipped text={one.name} className="font-semibold" />
          <span className="text-soft">{KINDS[one.place.kind]}</span>
        </p>
        <p className="flex min-w-0 flex-wrap gap-x-3 text-small text-soft">
          <span className="min-w-0 font-mono break-all">{whereWords(one.place)}</span>
          <span className="font-mono">{one.pattern}</span>
        </p>
        <p className="text-small">
          {tryOut.isPending ? 'Being tried …' : one.tried_said || proof(one)}
          {one.open > 0 && ` ${counted(one.open, 'delivery', 'deliveries')} on the way.`}
          {one.stuck > 0 && ` ${counted(one.stuck, 'delivery waits', 'deliveries wait')} for you.`}
        </p>
      </div>
      {may && (
        <span className="flex gap-2">
          <Button
            size="small"
            disabled={tryOut.isPending}
            aria-label={`Try ${one.name}`}
            onClick={() => tryOut.mutate(one.id)}
          >
            Try
          </Button>
          <Button size="small" aria-label={`Change ${one.name}`} onClick={onOpen}>
            Change
          </Button>
          <Button
            kind="quiet"
            size="small"
            disabled={remove.isPending}
            aria-label={`Remove ${one.name}`}
            onClick={() =>
              remove.mutate(one.id, { onSuccess: () => notify(`“${one.name}” is removed; its receipts stay.`) })
            }
          >
            Remove
          </Button>
        </span>
      )}
    </li>
  );
}

function proof({ tried_at, place }: Destination): string {
  if (!tried_at) return 'Not tried yet.';
  return place.kind === 'mail'
    ? `The mail server takes the password and the sender, ${when(tried_at)}.`
    : `Written, read back, removed: it works, ${when(tried_at)}.`;
}
