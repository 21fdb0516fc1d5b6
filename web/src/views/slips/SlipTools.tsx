import { useQuery } from '@tanstack/react-query';
import { slipsQuery, useSlips } from '@/api/intake';
import type { OrderSlip } from '@/api/types';
import { shifted } from '@/engine/capture/slip';
import { notify } from '@/engine/notices';
import { Button } from '@/ui/Button';
import { Confirm } from '@/ui/Confirm';

export type SlipToolsProps = { slip: OrderSlip; changed: boolean; onLeave: () => void };

/** What is done with a kept slip as a thing: tried dry, copied, put elsewhere on the shelf, deleted. */
export function SlipTools({ slip, changed, onLeave }: SlipToolsProps) {
  const { data: slips = [] } = useQuery(slipsQuery);
  const { dry, copy, arrange, drop } = useSlips();
  const ids = slips.map(({ id }) => id);
  const place = ids.indexOf(slip.id) + 1;
  const move = (by: -1 | 1) => {
    const next = shifted(ids, slip.id, by);
    if (next) arrange.mutate(next);
  };
  return (
    <>
      {(dry.data || dry.isPending || dry.error) && (
        <ul
          aria-label="Tried dry"
          aria-live="polite"
          className="flex basis-full flex-col gap-1 border-l-3 border-ink pl-3"
        >
          {dry.isPending && <li>Asking the station …</li>}
          {dry.error && <li>{dry.error.message}</li>}
          {dry.data?.map(({ well, sentence }) => (
            <li key={sentence} className="flex gap-2">
              <span className="w-16 shrink-0 font-semibold">{well ? 'well' : 'to mend'}</span>
              {sentence}
            </li>
          ))}
        </ul>
      )}
      <Button why={changed ? 'Keep it first.' : ''} disabled={dry.isPending} onClick={() => dry.mutate(slip.id)}>
        Try it dry
      </Button>
      <Button
        disabled={copy.isPending}
        onClick={() =>
          copy.mutate(slip.id, {
            onSuccess: (made) => {
              onLeave();
              notify(`“${made.name}” says the same, and stands behind it.`);
            },
          })
        }
      >
        Copy
      </Button>
      <Button disabled={place <= 1 || arrange.isPending} onClick={() => move(-1)}>
        Earlier
      </Button>
      <Button disabled={place >= ids.length || arrange.isPending} onClick={() => move(1)}>
        Later
      </Button>
      <span className="mr-auto self-center font-mono text-small text-soft" role="status">
        {place} of {ids.length}
      </span>
      <Confirm
        question={`Delete the order slip “${slip.name}”?`}
        more="Stacks that were captured with it stay as they are. The slip itself is not kept."
        action="Delete"
        onConfirm={() => drop.mutate(slip.id, { onSuccess: onLeave })}
      >
        <Button kind="quiet">Delete …</Button>
      </Confirm>
    </>
  );
}
