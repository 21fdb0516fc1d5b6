import { useState } from 'react';
import { useSlips } from '@/api/intake';
import type { OrderSlip } from '@/api/types';
import { Button } from '@/ui/Button';
import { SlipQuestions } from './SlipQuestions';
import { SlipSheet } from './SlipSheet';

/** A kept slip: opened, and let wait at its station for paper or for the device's key. */
export function SlipDoings({ slip, narrow = false }: { slip: OrderSlip; narrow?: boolean }) {
  const paper = slip.settings.source === 'feeder';
  const { wait } = useSlips();
  const [doing, setDoing] = useState<'open' | 'wait'>();
  const leave = () => setDoing(undefined);
  return (
    <span className="flex flex-wrap items-center gap-x-2 gap-y-1 text-small">
      {slip.waiting && (
        <span role="status">
          <span aria-hidden="true">◦ </span>
          {slip.waiting_problem || waitingWords(slip)}
        </span>
      )}
      <Button
        kind="quiet"
        size="small"
        aria-label={`Open the order slip ${slip.name}`}
        onClick={() => setDoing('open')}
      >
        Open …
      </Button>
      {slip.station !== null && (
        <Button
          kind="quiet"
          size="small"
          aria-label={slip.waiting ? `${slip.name}: stop waiting` : `Let ${slip.name} wait at the station`}
          disabled={wait.isPending}
          onClick={() =>
            slip.asks.length && !slip.waiting ? setDoing('wait') : wait.mutate({ id: slip.id, on: !slip.waiting })
          }
        >
          {slip.waiting ? 'Stop waiting' : narrow ? 'Wait' : paper ? 'Wait for paper' : 'Wait for its key'}
        </Button>
      )}
      {doing === 'open' && <SlipSheet first={undefined} slip={slip} onLeave={leave} />}
      {doing === 'wait' && (
        <SlipQuestions
          slip={slip}
          action="Wait with this"
          onSaid={(answers) => wait.mutate({ id: slip.id, on: true, answers }, { onSuccess: leave })}
          onLeave={leave}
        />
      )}
    </span>
  );
}

const waitingWords = ({ settings, station_name }: OrderSlip) =>
  settings.source === 'feeder'
    ? `Waits at ${station_name}: lay the paper in, or press its start key.`
    : `Waits at ${station_name}: press its start key.`;
