import { useQuery } from '@tanstack/react-query';
import { useId } from 'react';
import { Link } from 'wouter';
import { planQuery } from '@/api/signing';
import type { Pages, SampleAsked } from '@/api/types';
import { meaningOf } from '@/engine/inspect/sample';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Select } from '@/ui/Select';
import { Failed, Loading } from '@/ui/States';
import { count, counted } from '@/words/figures';
import { SEVERITIES } from '@/words/sample';
import { Curve } from './Curve';

export type PlanAheadProps = {
  stackId: number;
  data: Pages;
  asked: SampleAsked;
  onAsked: (asked: SampleAsked) => void;
  may: boolean;
  /** Whether drawing is what is done next. */
  main: boolean;
  drawing: boolean;
  onDraw: () => void;
};

/** The lot that is no document. */
const WHOLE = 'stack';

/** Which lot is looked at, how closely, and what that means, before a sample is drawn. */
export function PlanAhead({ stackId, data, asked, onAsked, may, main, drawing, onDraw }: PlanAheadProps) {
  const { data: plan, error, refetch } = useQuery(planQuery(stackId, data.change, asked));
  const lots = useLots(data);
  const id = useId();
  if (error && !plan) return <Failed message={error.message} retry={() => refetch()} />;
  if (!plan) return <Loading label="Loading the plan" className="m-7 h-40" />;
  const { size, accept, reject, severity, letter } = plan.plan;
  const why = !may
    ? 'Only inspectors, technicians and administrators draw samples.'
    : plan.to_do.length > 0
      ? 'Something is to be done first.'
      : '';
  return (
    <section aria-labelledby={id} className="flex flex-col gap-5 px-7 py-5">
      <h2 id={id} className="text-title font-semibold">
        {size >= plan.lot
          ? `All ${counted(plan.lot, 'page')} are looked at`
          : `${count(size)} of ${counted(plan.lot, 'page')} are looked at`}
        {plan.lot > 0 && (
          <span className="font-normal text-soft">
            {' '}
            ·{' '}
            {accept
              ? `up to ${accept} may be bad · from ${reject} on the lot is not accepted`
              : 'none of them may be bad'}
          </span>
        )}
      </h2>
      <div className="flex flex-wrap items-start gap-x-12 gap-y-6">
        <div className="flex w-80 flex-col gap-4">
          {lots.length > 2 && (
            <Select
              label="Lot"
              value={String(asked.first ?? WHOLE)}
              options={lots}
              onChange={(first) => onAsked({ ...asked, first: first === WHOLE ? null : Number(first) })}
            />
          )}
          <Labelled label="Level: how much is looked at">
            <Choice
              label="Level"
              value={asked.level}
              options={(['I', 'II', 'III'] as const).map((value) => ({ value, label: value }))}
              onChange={(level) => onAsked({ ...asked, level })}
            />
          </Labelled>
          <Labelled label="AQL: bad pages in 100 that are still borne">
            <Choice
              label="AQL"
              value={asked.aql}
              options={(['0.65', '1.0', '1.5', '2.5', '4.0'] as const).map((value) => ({ value, label: value }))}
              onChange={(aql) => onAsked({ ...asked, aql })}
            />
          </Labelled>
          <p className="text-soft">
            {SEVERITIES[severity]}
            {letter && `, code letter ${letter}`}, by ISO 2859-1.{' '}
            {plan.stopped
              ? 'So many lots of this source were not accepted that all pages are looked at.'
              : plan.earlier > 0
                ? `It follows from ${counted(plan.earlier, 'earlier lot')} of ${plan.source}.`
                : plan.source && `This is the first lot of ${plan.source}.`}
          </p>
          <p className="text-soft">
            A page with a major defect is bad; one with a critical defect is never borne; minor defects are kept on
            record.
          </p>
        </div>
        {plan.curve.length > 0 && (
          <div className="flex min-w-72 flex-1 flex-col gap-2">
            <Curve points={plan.curve} aql={asked.aql} />
            {meaningOf(plan.curve, asked.aql, plan.lot).map((sentence) => (
              <p key={sentence} className="text-soft">
                {sentence}
              </p>
            ))}
          </div>
        )}
      </div>
      {plan.to_do.length > 0 && (
        <ul aria-label="To be done first" className="flex flex-col gap-1.5">
          {plan.to_do.map((sentence) => (
            <li key={sentence} className="border-l-3 border-ink pl-3">
              {sentence}
            </li>
          ))}
        </ul>
      )}
      {plan.to_do.length > 0 && data.counts.inspect > 0 && (
        <p>
          <Link href={`/stacks/${stackId}/inspect`} className="underline">
            To the findings
          </Link>
        </p>
      )}
      <div>
        <Button
          kind={main ? 'main' : 'plain'}
          shortcut={main ? 'd' : undefined}
          disabled={drawing}
          why={why}
          onClick={onDraw}
        >
          Draw the sample
        </Button>
      </div>
    </section>
  );
}

function Labelled({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex flex-col items-start gap-1">
      <span className="text-small text-soft">{label}</span>
      {children}
    </div>
  );
}

/** The whole stack, and each of its documents. */
function useLots({ pages, starts }: Pages): { value: string; label: string }[] {
  const numbers = new Map(pages.map((page) => [page.id, page.number]));
  const documents = starts.flatMap((first, place) => {
    const number = numbers.get(first);
    return number === undefined
      ? []
      : [{ value: String(first), label: `Document ${place + 1}, from page ${count(number)}` }];
  });
  return [{ value: WHOLE, label: `The whole stack, ${counted(pages.length, 'page')}` }, ...documents];
}
