import { useEffect } from 'react';
import type { PageRow } from '@/api/types';
import type { Matrix } from '@/engine/geometry/projective';
import { chain, shift, stretch } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { lookCommands } from '@/engine/keys/look';
import type { Version } from '@/engine/version';
import { type Close, closeOf, viewOf } from '@/engine/zoom/kept';
import { closer, fitting, panned, type View } from '@/engine/zoom/view';
import { useAhead } from '@/hooks/useAhead';
import { useCommands } from '@/hooks/useCommands';
import { useSize } from '@/hooks/useSize';
import { Button } from '@/ui/Button';
import { Empty } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { VersionChoice } from '@/ui/VersionChoice';
import { Pane } from '@/ui/zoom/Pane';
import { figure, size as sizeWords } from '@/words/figures';
import { FailedPage } from './FailedPage';

export type PageLargeProps = {
  page: PageRow;
  pages: readonly PageRow[];
  version: Version;
  onVersion: (version: Version) => void;
  /** How closely it is looked at, kept from page to page; undefined: the whole of it. */
  close: Close | undefined;
  onClose: (close: Close | undefined) => void;
};

/** One page in a neutral surround, from the whole to a pixel a pixel and beyond. */
export function PageLarge({ page, pages, version, onVersion, close, onClose }: PageLargeProps) {
  const [frame, pane] = useSize<HTMLDivElement>();
  useAhead(page, pages);
  const clean = version === 'clean' && page.clean !== null;
  const address = clean ? `/iiif/render/${page.clean}` : page.original ? `/iiif/measure/${page.original}` : null;
  const size = ((clean ? page.clean_px : page.original_px) ?? [1, 1]) as Size;
  const whole: View = { x: size[0] / 2, y: size[1] / 2, scale: fitting(size, pane) };
  const view = close ? viewOf(close, size) : whole;
  const toScreen: Matrix = chain(shift(-view.x, -view.y), stretch(view.scale), shift(pane[0] / 2, pane[1] / 2));
  const look = (next: View) => onClose(closeOf(next, size));
  const trueSize = () => look({ ...view, scale: 1 / window.devicePixelRatio });
  useCommands(
    lookCommands({
      whole: () => onClose(undefined),
      trueSize,
      zoom: (factor) => look(closer(view, factor, toScreen, [pane[0] / 2, pane[1] / 2])),
      pan: (across, down) => look(panned(view, toScreen, pane, -across * pane[0], -down * pane[1])),
    }),
  );
  useEffect(() => () => onClose(undefined), [onClose]);

  return (
    <div className="flex min-h-[60vh] flex-1 flex-col lg:min-h-0">
      <div ref={frame} data-testid="page-image" className="flex min-h-0 flex-1">
        {address ? (
          <Pane
            label={`Page ${page.number}`}
            size={pane}
            view={view}
            onView={look}
            onDoubleClick={() => (close ? onClose(undefined) : trueSize())}
            toScreen={toScreen}
            layers={[
              {
                picture: { address, size },
                toScreen,
                label: `Page ${page.number}, ${clean ? 'corrected' : 'original'}`,
              },
            ]}
          />
        ) : (
          <div className="min-h-0 flex-1 bg-ground">
            {page.state === 'failed' || page.trouble ? (
              <FailedPage
                id={page.id}
                error={page.error || (page.trouble?.message ?? '')}
                {...(page.trouble ? { title: 'This page is held up' } : {})}
              />
            ) : (
              <Empty title="Not ready to be shown yet">It is worked on next.</Empty>
            )}
          </div>
        )}
      </div>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-t border-hairline bg-panel px-4 py-1.5 text-ink">
        <span className="font-mono">{page.number}</span>
        <span className="min-w-0 flex-1">
          <Clipped text={page.source} />
        </span>
        <VersionChoice version={version} onVersion={onVersion} />
        <span className="shrink-0 font-mono text-small text-soft">{address ? sizeWords(size) : '–'}</span>
        <span className="w-14 shrink-0 text-right font-mono" data-testid="zoom">
          {address && pane[0] ? figure(100 * view.scale * window.devicePixelRatio, 0, '%') : '–'}
        </span>
        <Button size="small" shortcut="0" onClick={() => onClose(undefined)}>
          Whole page
        </Button>
        <Button size="small" shortcut="1" onClick={trueSize}>
          1:1
        </Button>
      </div>
    </div>
  );
}
