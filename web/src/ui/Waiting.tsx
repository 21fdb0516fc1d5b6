import { useSlips } from '@/api/intake';
import type { OrderSlip } from '@/api/types';
import { Button } from './Button';

/** A slip that waits at its station for paper or for the device's key, or can be told to. */
export function Waiting({ slip }: { slip: OrderSlip }) {
  const { wait } = useSlips();
  if (slip.station === null) return null;
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
        aria-label={slip.waiting ? `${slip.name}: stop waiting` : `Let ${slip.name} wait at the station`}
        disabled={wait.isPending}
        onClick={() => wait.mutate({ id: slip.id, on: !slip.waiting })}
      >
        {slip.waiting ? 'Stop waiting' : slip.settings.source === 'feeder' ? 'Wait for paper' : 'Wait for its key'}
      </Button>
    </span>
  );
}

const waitingWords = ({ settings, station_name }: OrderSlip) =>
  settings.source === 'feeder'
    ? `Waits at ${station_name}: lay the paper in, or press its start key.`
    : `Waits at ${station_name}: press its start key.`;
