/** The order slip as a sentence: what each of its pieces says. The controls stand where the pieces stand. */

import type { PageRow, PaperSize, Station } from '@/api/types';
import { counted } from '@/words/figures';
import { papersFor } from './papers';
import type { Wish } from './wish';

export type Source = { station: number; source: 'platen' | 'feeder' };
export type Option<T extends string> = { value: T; label: string; disabled?: boolean };

/** A source among all stations, as one word. */
export const sourceKey = ({ station, source }: Source) => `${station} ${source}`;

/** Every source of every station: what a sheet can be laid on or in. */
export function sourcesOf(stations: readonly Station[]): (Source & { label: string; device: Station })[] {
  return stations.flatMap((device) => {
    const both = device.platen !== null && device.feeder !== null;
    const of = (source: 'platen' | 'feeder', word: string) => ({
      station: device.id,
      source,
      device,
      label: both ? `${device.name}, ${word}` : device.name,
    });
    return [...(device.platen ? [of('platen', 'glass')] : []), ...(device.feeder ? [of('feeder', 'feeder')] : [])];
  });
}

/** What is captured: frames where there are some, else the glass, a paper size, each sheet. */
export function extentOptions(
  wish: Wish,
  device: Station,
  papers: readonly PaperSize[],
  frames: number,
): Option<string>[] {
  const bed = wish.source === 'platen' ? device.platen : device.feeder;
  const sizes = papersFor(papers, bed, wish.source);
  return frames && wish.source === 'platen'
    ? [
        { value: FRAMES, label: counted(frames, 'frame') },
        ...sizes.map(({ value, label }) => ({ value, label: `${label}, no frames` })),
      ]
    : sizes;
}
export const FRAMES = 'frames';

export function sideOptions(device: Station): Option<Wish['sides']>[] {
  return [
    { value: 'one', label: 'the fronts only' },
    device.two_sided ? { value: 'both', label: 'both sides' } : { value: 'apart', label: 'the fronts, then the backs' },
  ];
}

export function placeOptions(wish: Wish, page: PageRow | undefined): Option<Wish['place']>[] {
  const named = page ? `page ${page.number}` : 'a page';
  return [
    { value: 'end', label: 'at the end' },
    { value: 'after', label: `after ${named}`, disabled: !page },
    { value: 'instead', label: `in place of ${named}`, disabled: !page || wish.source === 'feeder' },
  ];
}

/** One image, or more than one: the words around the pieces follow. */
export const isPlural = (wish: Wish, frames: number) => wish.source === 'feeder' || frames > 1;
