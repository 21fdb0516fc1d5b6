import type { Seen } from '@/engine/camera/camera';
import { CARD } from './card';
import { Device } from './Device';

const STANDING: Record<Seen['stage'], string> = {
  closed: 'of this machine',
  opening: 'asks for leave',
  open: 'ready',
  failed: 'not to be had',
};

/** The camera of this machine, as a station among the others. */
export function CameraCard({ on, stage, onChoose }: { on: boolean; stage: Seen['stage']; onChoose: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onChoose}
      className={`${CARD} ${on ? 'border-2 border-accent bg-panel' : 'border-hairline bg-panel hover:border-control'}`}
    >
      <Device source="camera" twoSided={false} className="mb-1 h-6 w-14" />
      <span className="line-clamp-1 font-semibold">Camera at the table</span>
      <span className="line-clamp-2 text-soft">
        {stage === 'failed' && <span aria-hidden="true">■ </span>}
        {STANDING[stage]}
      </span>
    </button>
  );
}
