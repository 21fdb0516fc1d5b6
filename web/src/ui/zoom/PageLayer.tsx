import { useEffect, useState } from 'react';
import { cssTransform, type Matrix } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { smallOf, type Tile, tilesFor, wholeOf } from '@/engine/zoom/tiles';

/** A picture by its IIIF address, or as it came from the preview. `size` is that of the image it stands for. */
export type Picture = { address: string; size: Size } | { data: string; size: Size };

export type PageLayerProps = { picture: Picture; toScreen: Matrix; pane: Size; label: string };

/** Hands move quicker than pictures come. */
const SETTLED_MS = 90;

/** A picture laid on the screen by any map; what is looked at closely comes as fine as it is shown. */
export function PageLayer({ picture, toScreen, pane, label }: PageLayerProps) {
  const [width, height] = picture.size;
  const address = 'address' in picture ? picture.address : undefined;
  const tiles = useTiles(address, picture.size, toScreen, pane);
  return (
    <div
      className="absolute top-0 left-0 origin-top-left"
      style={{
        width,
        height,
        transform: cssTransform(toScreen),
        willChange: 'transform',
        ...(address ? { background: `url("${smallOf(address)}") 0 0 / 100% 100% no-repeat` } : {}),
      }}
    >
      <img
        src={'data' in picture ? picture.data : wholeOf(picture)}
        alt={label}
        draggable={false}
        className="absolute inset-0 size-full max-w-none select-none"
      />
      {tiles.map(({ address: at, box: [left, top, wide, high] }) => (
        <img
          key={at}
          src={`${address}/${at}/0/default.jpg`}
          alt=""
          draggable={false}
          className="absolute max-w-none select-none"
          style={{ left, top, width: wide, height: high }}
        />
      ))}
    </div>
  );
}

const NONE: readonly Tile[] = [];

/** The tiles of what is seen, once hands are still. */
function useTiles(address: string | undefined, size: Size, toScreen: Matrix, pane: Size): readonly Tile[] {
  const [shown, setShown] = useState<{ of: string; tiles: readonly Tile[]; key: string }>();
  const tiles = address ? tilesFor(size, toScreen, pane, window.devicePixelRatio) : NONE;
  const key = tiles.map((tile) => tile.address).join(' ');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the tiles
  useEffect(() => {
    if (!address || !key) return setShown(undefined);
    const timer = setTimeout(() => setShown({ of: address, tiles, key }), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [address, key]);
  return shown && shown.of === address ? shown.tiles : NONE;
}
