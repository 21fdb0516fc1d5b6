import type { PaperSize, Station } from '@/api/types';
import { isLooking, pictureOf } from '@/engine/capture/glass';
import { onGlassAt } from '@/engine/capture/paper';
import { sizeOf } from '@/engine/capture/papers';
import type { Wish } from '@/engine/capture/wish';
import type { GlassHands } from '@/hooks/useGlass';
import type { PaperModel } from '@/hooks/usePaper';
import { Button } from '@/ui/Button';
import { figure } from '@/words/figures';
import { paperWords } from '@/words/paper';
import { type CaptureButton, CaptureEdge } from './CaptureEdge';
import { Glass } from './Glass';
import { PaperAsk, PaperPicture } from './PaperAsk';

export type GlassViewProps = {
  glass: GlassHands;
  station: Station;
  wish: Wish;
  papers: readonly PaperSize[];
  capture: CaptureButton;
  onLook: () => void;
  onNewFrame: () => void;
  paper: PaperModel;
  onCloser: () => void;
};

/** What lies on the glass, with the frames that become pages and the size of the one in hand. */
export function GlassView({
  glass,
  station,
  wish,
  papers,
  capture,
  onLook,
  onNewFrame,
  paper,
  onCloser,
}: GlassViewProps) {
  const { state, happen } = glass;
  const { frames } = state;
  const frame = state.chosen === undefined ? undefined : frames[state.chosen];
  if (!station.platen) return null;
  const size = sizeOf(wish.paper, papers);
  const sheet = size && { ...onGlassAt(paper.known, station.platen, size), width: size[0], height: size[1] };
  const bare = !frames.length && !state.nothing && !pictureOf(state);
  return (
    <section aria-label="Glass" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="relative flex min-h-0 flex-1 flex-col">
        <Glass glass={glass} size={station.platen} paper={sheet} />
        {bare && (
          // Frames can be drawn all the same: only the button takes the pointer.
          <div className="pointer-events-none absolute inset-0 flex flex-col items-center justify-center gap-3">
            <PaperPicture paper={paper} source="platen" className="w-44 bg-panel p-2 text-ink" />
            <div className="pointer-events-auto">
              <PaperAsk paper={paper} />
            </div>
          </div>
        )}
      </div>
      <CaptureEdge capture={capture}>
        <Button shortcut="l" disabled={isLooking(state)} onClick={onLook}>
          First look
        </Button>
        <Button size="small" shortcut="m" onClick={onNewFrame}>
          New frame
        </Button>
        {(frames.length > 0 || state.closer) && (
          <Button size="small" shortcut="i" disabled={isLooking(state)} onClick={onCloser}>
            {state.closer ? 'Whole glass' : 'Look closer'}
          </Button>
        )}
        <Button size="small" shortcut="t" onClick={() => happen({ kind: 'turn view' })}>
          Turn view
        </Button>
        <p className="min-h-10 min-w-0 flex-1 basis-56 content-center text-small">
          {state.lidOpen
            ? 'The lid looks open: pages come pale. Close it and look again, or capture anyway.'
            : frames.length
              ? state.nothing
                ? 'Nothing new was found: your frames are as they were.'
                : `${frames.length === 1 ? '1 frame' : `${frames.length} frames`}, a page each. Frames stay for the next page.`
              : state.nothing
                ? 'Nothing was found there. Is the paper on the glass, not in the feeder, and the lid closed? You can capture what the slip says anyway.'
                : pictureOf(state)
                  ? 'No frame: what the slip says is captured.'
                  : paper.known
                    ? paperWords('platen', paper.known)
                    : 'Lay the sheet face down, its corner at the mark.'}
        </p>
        {frame && (
          <p className="font-mono text-small" data-testid="frame-size">
            {figure(frame.width, 0)} × {figure(frame.height, 0, 'mm')} · {figure((frame.width / 25.4) * wish.ppi, 0)} ×{' '}
            {figure((frame.height / 25.4) * wish.ppi, 0, 'px')}
          </p>
        )}
      </CaptureEdge>
    </section>
  );
}
