import { useQuery } from '@tanstack/react-query';
import { useLocation } from 'wouter';
import { slipsQuery, useSlips } from '@/api/intake';
import { useMay } from '@/api/people';
import type { OrderSlip } from '@/api/types';
import { Button } from '@/ui/Button';
import { Confirm } from '@/ui/Confirm';
import { Cross } from '@/ui/signs';
import { Waiting } from '@/ui/Waiting';
import { slipWords } from '@/words/slips';

/** Saved capture jobs as the slips they are: one press starts a new stack with each. */
export function OrderSlips() {
  const { data: slips = [] } = useQuery(slipsQuery);
  const { start } = useSlips();
  const [, go] = useLocation();
  const may = useMay('work');
  if (slips.length === 0) return null;
  return (
    <section aria-label="Order slips, the saved capture jobs">
      <ul className="flex flex-wrap gap-3">
        {slips.map((slip) => (
          <li key={slip.id} className="relative">
            <button
              type="button"
              aria-disabled={!may || start.isPending || slip.station === null}
              onClick={() =>
                may &&
                !start.isPending &&
                slip.station !== null &&
                start.mutate(slip.id, { onSuccess: ({ stack }) => go(`/stacks/${stack}/intake`) })
              }
              className="flex min-h-20 w-72 max-w-full flex-col rounded-sm border border-b-2 border-slip-line bg-slip py-2.5 pr-10 pl-3.5 text-left hover:border-accent"
            >
              <span className="line-clamp-1 font-semibold">{slip.name}</span>
              <span className="line-clamp-2 text-small text-soft">
                {slip.station === null ? 'Its station is not there any more.' : slipWords(slip)}
              </span>
            </button>
            {may && <Waiting slip={slip} />}
            {may && <DeleteSlip slip={slip} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

export function DeleteSlip({ slip }: { slip: OrderSlip }) {
  const { drop } = useSlips();
  return (
    <Confirm
      question={`Delete the order slip “${slip.name}”?`}
      more="Stacks that were captured with it stay as they are. The slip itself is not kept."
      action="Delete"
      onConfirm={() => drop.mutate(slip.id)}
    >
      <Button
        kind="quiet"
        size="square"
        aria-label={`Delete the order slip ${slip.name}`}
        className="absolute top-1 right-1"
      >
        <Cross />
      </Button>
    </Confirm>
  );
}
