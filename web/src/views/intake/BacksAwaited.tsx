import type { Pair } from '@/engine/capture/halves';
import { Button } from '@/ui/Button';
import { counted } from '@/words/figures';

export type BacksAwaitedProps = {
  pair: Pair;
  /** How many backs are to come. */
  left: number;
  onCapture: () => void;
  onNone: () => void;
};

/** Fronts are in, and their backs are to come: said wherever the stack's intake is opened, until they are or there are none. */
export function BacksAwaited({ pair, left, onCapture, onNone }: BacksAwaitedProps) {
  return (
    <p role="status" className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 border-l-3 border-ink pl-3">
      <span>
        {counted(left, 'back')} of {counted(pair.fronts.received, 'sheet')} captured with {pair.fronts.station_name} are
        still to come.
      </span>
      <Button size="small" onClick={onCapture}>
        Capture them
      </Button>
      <Button kind="quiet" size="small" onClick={onNone}>
        No sheet has a back
      </Button>
    </p>
  );
}
