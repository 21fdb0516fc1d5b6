import type { Seen } from '@/engine/camera/camera';
import { counted } from '@/words/figures';
import { CARD } from './card';
import { Device } from './Device';

const STANDING: Record<Seen['stage'], string> = {
  closed: 'of this machine',
  opening: 'asks for leave',
  open: 'ready',
  failed: 'not to be had',
};

/** The camera of this machine, as a station among the others. */
export function CameraCard({ on, seen, onChoose }: { on: boolean; seen: Seen; onChoose: () => void }) {
  const { stage, held } = seen;
  const wrong = stage === 'failed' || held > 0;
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
        {wrong && <span aria-hidden="true">■ </span>}
        {held > 0 ? `${counted(held, 'picture')} not sent` : STANDING[stage]}
      </span>
    </button>
  );
}
