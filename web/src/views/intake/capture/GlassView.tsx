import type { PaperSize, Station } from '@/api/types';
import { sizeOf } from '@/engine/capture/papers';
import type { Wish } from '@/engine/capture/wish';
import { Button } from '@/ui/Button';
import { figure } from '@/words/figures';
import { Glass } from './Glass';
import type { GlassState } from './useGlass';

export type GlassViewProps = { glass: GlassState; station: Station; wish: Wish; papers: readonly PaperSize[] };

/** What lies on the glass, with the frames that become pages and the size of the one that is chosen. */
export function GlassView({ glass, station, wish, papers }: GlassViewProps) {
  const { frames, frame } = glass;
  if (!station.platen) return null;
  return (
    <>
      <Glass
        size={station.platen}
        picture={glass.picture}
        looking={glass.looking}
        frames={frames}
        chosen={glass.chosen}
        paper={sizeOf(wish.paper, papers)}
        quarter={glass.quarter}
        onLoad={glass.looked}
        onError={glass.failed}
        onFrames={glass.setFrames}
        onChoose={glass.setChosen}
      />
      <div className="flex h-11 shrink-0 items-center gap-3 border-t border-hairline bg-ground px-4">
        <span>
          {frames.length
            ? `${frames.length === 1 ? '1 frame' : `${frames.length} frames`}, a page each`
            : glass.picture
              ? 'No frame: the paper size is captured'
              : 'Lay the sheet face down, its corner at the mark, and look'}
        </span>
        {frame && (
          <span className="ml-auto font-mono text-small" data-testid="frame-size">
            {figure(frame.width, 0)} × {figure(frame.height, 0, 'mm')} · {figure((frame.width / 25.4) * wish.ppi, 0)} ×{' '}
            {figure((frame.height / 25.4) * wish.ppi, 0, 'px')}
          </span>
        )}
        <span className={frame ? 'flex gap-1' : 'ml-auto flex gap-1'}>
          <Button onClick={glass.addFrame}>
            New frame <kbd className="font-mono text-small text-soft">M</kbd>
          </Button>
          <Button onClick={glass.turnView}>
            Turn view <kbd className="font-mono text-small text-soft">T</kbd>
          </Button>
        </span>
      </div>
    </>
  );
}
