import { useEffect, useState } from 'react';
import { magnification, seen } from '@/engine/bench/view';
import { cssTransform, type Matrix } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';

/** A picture by its IIIF address, or as it came from the preview. `size` is that of the image it stands for. */
export type Picture = { address: string; size: Size } | { data: string; size: Size };

export type PageLayerProps = { picture: Picture; toScreen: Matrix; pane: Size; label: string };

const BASE_PX = 1400;
const SETTLED_MS = 140;
const MOST_PX = 2000;

/** A picture laid on the screen by any map; what is looked at closely comes as fine as it is shown. */
export function PageLayer({ picture, toScreen, pane, label }: PageLayerProps) {
  const [width, height] = picture.size;
  const address = 'address' in picture ? picture.address : undefined;
  const detail = useDetail(address, picture.size, toScreen, pane);
  const longest = Math.max(width, height);
  const base =
    'data' in picture
      ? picture.data
      : `${address}/full/${longest > BASE_PX ? `!${BASE_PX},${BASE_PX}` : 'max'}/0/default.jpg`;
  return (
    <div
      className="absolute top-0 left-0 origin-top-left"
      style={{ width, height, transform: cssTransform(toScreen), willChange: 'transform' }}
    >
      <img src={base} alt={label} draggable={false} className="absolute inset-0 size-full max-w-none select-none" />
      {detail && (
        <img
          key={detail.source}
          src={detail.source}
          alt=""
          draggable={false}
          className="absolute max-w-none select-none"
          style={{ left: detail.box[0], top: detail.box[1], width: detail.box[2], height: detail.box[3] }}
        />
      )}
    </div>
  );
}

type Detail = { source: string; box: [number, number, number, number] };

/** The part that is seen, as fine as it is shown, once hands are still. */
function useDetail(address: string | undefined, size: Size, toScreen: Matrix, pane: Size): Detail | undefined {
  const [detail, setDetail] = useState<Detail & { of: string }>();
  const fine = magnification(toScreen, size) * window.devicePixelRatio;
  const needed = address && fine * Math.max(...size) > BASE_PX * 1.1 && Math.max(...size) > BASE_PX;
  const box = needed ? seen(toScreen, pane, size) : undefined;
  const wanted = box && `${box.join()}/${scaled(box, fine).join()}`;
  useEffect(() => {
    if (!address || !wanted) return setDetail(undefined);
    const timer = setTimeout(() => {
      const [region = '', to = ''] = wanted.split('/');
      const [left = 0, top = 0, wide = 0, high = 0] = region.split(',').map(Number);
      setDetail({ of: address, source: `${address}/${region}/${to}/0/default.jpg`, box: [left, top, wide, high] });
    }, SETTLED_MS);
    return () => clearTimeout(timer);
  }, [address, wanted]);
  return detail?.of === address ? detail : undefined;
}

/** As many pixels as are shown, but never more than there are. */
function scaled([, , wide, high]: readonly [number, number, number, number], fine: number): [number, number] {
  const factor = Math.min(1, fine, MOST_PX / Math.max(wide, high));
  return [Math.max(1, Math.round(wide * factor)), Math.max(1, Math.round(high * factor))];
}
