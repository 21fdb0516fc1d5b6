import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useLocation } from 'wouter';
import { slipsQuery, useSlips } from '@/api/intake';
import { useMay } from '@/api/people';
import type { OrderSlip } from '@/api/types';
import type { Answers } from '@/engine/capture/slip';
import { slipWords } from '@/words/slips';
import { SlipDoings } from '../slips/SlipDoings';
import { SlipQuestions } from '../slips/SlipQuestions';

/** Saved capture jobs as the slips they are: one press starts a new stack with each. */
export function OrderSlips() {
  const { data: slips = [] } = useQuery(slipsQuery);
  const { start } = useSlips();
  const [, go] = useLocation();
  const [asked, setAsked] = useState<OrderSlip>();
  const may = useMay('work');
  if (slips.length === 0) return null;
  const begin = (slip: OrderSlip, answers?: Answers) =>
    start.mutate(
      { id: slip.id, ...(answers ? { answers } : {}) },
      { onSuccess: ({ stack }) => go(`/stacks/${stack}/intake`) },
    );
  const press = (slip: OrderSlip) => {
    if (!may || start.isPending || slip.station === null) return;
    if (slip.asks.length) setAsked(slip);
    else begin(slip);
  };
  return (
    <section aria-label="Order slips, the saved capture jobs">
      <ul className="flex flex-wrap gap-3">
        {slips.map((slip) => (
          <li key={slip.id} className="flex w-72 max-w-full flex-col gap-0.5">
            <button
              type="button"
              aria-disabled={!may || start.isPending || slip.station === null}
              onClick={() => press(slip)}
              className="flex min-h-20 flex-col rounded-sm border border-b-2 border-slip-line bg-slip px-3.5 py-2.5 text-left hover:border-accent"
            >
              <span className="line-clamp-1 font-semibold">{slip.name}</span>
              <span className="line-clamp-2 text-small text-soft">
                {slip.station === null ? 'Its station is not there any more.' : slipWords(slip)}
                {slip.gone > 0 && ' · a destination is gone'}
              </span>
            </button>
            {may && <SlipDoings slip={slip} />}
          </li>
        ))}
      </ul>
      {asked && (
        <SlipQuestions
          slip={asked}
          action="Start"
          onSaid={(answers) => begin(asked, answers)}
          onLeave={() => setAsked(undefined)}
        />
      )}
    </section>
  );
}
