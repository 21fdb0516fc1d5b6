import OpenSeadragon from 'openseadragon';
import { useEffect, useRef, useState } from 'react';
import type { PageRow } from '@/api/types';
import type { Version } from '@/engine/version';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Empty } from '@/ui/States';
import { figure, size } from '@/words/figures';
import { FailedPage } from './FailedPage';

export type PageLargeProps = { page: PageRow; version: Version };

/** One page in a neutral surround, from the whole to a pixel a pixel and beyond. */
export function PageLarge({ page, version }: PageLargeProps) {
  const frame = useRef<HTMLDivElement>(null);
  const viewer = useRef<OpenSeadragon.Viewer>(undefined);
  const [zoom, setZoom] = useState<number>();
  const clean = version === 'clean' && page.clean !== null;
  const address = clean ? `/iiif/render/${page.clean}` : page.original ? `/iiif/measure/${page.original}` : null;

  useEffect(() => {
    if (!frame.current) return;
    const made = OpenSeadragon({
      element: frame.current,
      showNavigationControl: false,
      maxZoomPixelRatio: 8,
      viewportMargins: { left: 20, top: 20, right: 20, bottom: 20 },
      visibilityRatio: 0.3,
      minZoomImageRatio: 0.5,
      animationTime: 0.25,
      springStiffness: 12,
      gestureSettingsMouse: { clickToZoom: false, dblClickToZoom: true },
      // One key, one meaning everywhere: the application's own keys are used.
      keyboardNavEnabled: false,
      drawer: 'canvas',
      imageSmoothingEnabled: true,
    } as OpenSeadragon.Options);
    const tell = () => {
      const image = made.world.getItemAt(0);
      if (image) setZoom(image.viewportToImageZoom(made.viewport.getZoom(true)));
    };
    made.addHandler('animation', tell);
    made.addHandler('open', tell);
    made.addHandler('resize', tell);
    viewer.current = made;
    return () => {
      made.destroy();
      viewer.current = undefined;
    };
  }, []);

  useEffect(() => {
    const shown = viewer.current;
    if (!shown) return;
    setZoom(undefined);
    if (address) shown.open({ tileSource: `${address}/info.json` });
    else shown.close();
  }, [address]);

  const zoomBy = (factor: number) => {
    viewer.current?.viewport.zoomBy(factor);
    viewer.current?.viewport.applyConstraints();
  };
  const trueSize = () => {
    const image = viewer.current?.world.getItemAt(0);
    if (image) viewer.current?.viewport.zoomTo(image.imageToViewportZoom(1));
  };
  const whole = () => viewer.current?.viewport.goHome();
  useCommands([
    { name: 'whole', label: 'Whole page', key: '0', perform: whole },
    { name: 'true', label: 'One pixel to one pixel', key: '1', perform: trueSize },
    { name: 'in', label: 'Closer', key: '+', perform: () => zoomBy(1.5) },
    { name: 'out', label: 'Further away', key: '-', shown: '−', perform: () => zoomBy(1 / 1.5) },
  ]);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div ref={frame} data-testid="page-image" className={address ? 'min-h-0 flex-1' : 'hidden'} />
      {!address && (
        <div className="min-h-0 flex-1 bg-surround text-on-accent">
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
      <div className="flex shrink-0 items-center gap-3 border-t border-hairline bg-ground px-3 py-1.5">
        <span className="font-mono">{page.number}</span>
        <span className="min-w-0 truncate" title={page.source}>
          {page.source}
        </span>
        <span className="ml-auto shrink-0 text-soft">{clean ? 'Corrected' : 'Original'}</span>
        <span className="shrink-0 font-mono text-soft">{size(clean ? page.clean_px : page.original_px)}</span>
        <span className="w-14 shrink-0 text-right font-mono" data-testid="zoom">
          {zoom === undefined ? '–' : figure(zoom * 100, 0, '%')}
        </span>
        <Button onClick={whole}>Whole</Button>
        <Button onClick={trueSize}>1:1</Button>
      </div>
    </div>
  );
}
