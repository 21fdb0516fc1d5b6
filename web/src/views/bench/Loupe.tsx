import type { Size } from '@/engine/geometry/turned';
import { type Lie, overlaid, pageToScreen } from '@/engine/zoom/view';
import { PageLayer, type Picture } from '@/ui/zoom/PageLayer';

export type LoupeProps = { spot: readonly [number, number]; lie: Lie; original: Picture; corrected: Picture };

const PANE: Size = [190, 150];
const SCALE = 2;

/** Original and corrected at the same spot, twice as large as they are. */
export function Loupe({ spot, lie, original, corrected }: LoupeProps) {
  const view = { x: spot[0], y: spot[1], scale: SCALE };
  return (
    <div
      role="img"
      aria-label="Loupe: original and corrected at the same spot"
      className="pointer-events-none absolute right-3 bottom-3 flex gap-px border-3 border-panel bg-panel"
    >
      {(
        [
          ['Original', original, overlaid(view, PANE, lie)],
          ['Corrected', corrected, pageToScreen(view, PANE, lie)],
        ] as const
      ).map(([title, picture, toScreen]) => (
        <div key={title} className="relative overflow-hidden bg-surround" style={{ width: PANE[0], height: PANE[1] }}>
          <PageLayer picture={picture} toScreen={toScreen} pane={PANE} label={`${title} in the loupe`} />
          <span className="absolute top-0 left-0 bg-panel px-1.5 text-small text-ink">{title}</span>
        </div>
      ))}
    </div>
  );
}
