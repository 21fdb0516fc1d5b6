/** What is asked of a station, in the operator's words, and what it will come to. */

import type { CaptureSettings, OrderSlip, PaperSize, Run, Station } from '@/api/types';
import { type Frame, trouble } from '@/engine/geometry/frames';
import { sizeOf } from './papers';

export type Wish = {
  station: number | undefined;
  source: 'platen' | 'feeder';
  sides: 'one' | 'both' | 'apart';
  /** Name of a paper size, `each` for every sheet as large as it is, `long` for strips. */
  paper: string;
  ppi: number;
  colour: 'bitonal' | 'grey' | 'colour';
  name: string;
  sheets: string;
  /** Fed slowly, for delicate sheets. */
  slow: boolean;
  place: 'end' | 'after' | 'instead';
};

export const FIRST_WISH: Wish = {
  station: undefined,
  source: 'platen',
  sides: 'one',
  paper: 'each',
  ppi: 300,
  colour: 'colour',
  name: 'page',
  sheets: '',
  slow: false,
  place: 'end',
};

/** Resolutions with what they are for (common practice, no source). */
export function resolutionWords(ppi: number): string {
  const words: Record<number, string> = {
    75: 'first look only',
    150: 'reading copy',
    200: 'plain text',
    300: 'everyday archive',
    600: 'photographs to be enlarged',
    1200: 'small originals',
  };
  return words[ppi] ? `${ppi} ppi, ${words[ppi]}` : `${ppi} ppi`;
}

/** The wish as far as this station can fulfil it. */
export function fitting(wish: Wish, station: Station | undefined): Wish {
  if (!station) return wish;
  const source =
    wish.source === 'platen' ? (station.platen ? 'platen' : 'feeder') : station.feeder ? 'feeder' : 'platen';
  const steps = (source === 'platen' ? station.platen : station.feeder)?.resolutions ?? [];
  const ppi = steps.length && !steps.includes(wish.ppi) ? nearest(steps, wish.ppi) : wish.ppi;
  const sides =
    source === 'platen'
      ? 'one'
      : wish.sides === 'both' && !station.two_sided
        ? 'apart'
        : wish.sides === 'apart' && station.two_sided
          ? 'both'
          : wish.sides;
  return {
    ...wish,
    station: station.id,
    source,
    ppi,
    sides,
    slow: wish.slow && source === 'feeder' && station.feeder?.slow_pace != null,
    place: source === 'feeder' && wish.place === 'instead' ? 'end' : wish.place,
  };
}

const nearest = (steps: readonly number[], to: number) =>
  steps.reduce((best, step) => (Math.abs(step - to) < Math.abs(best - to) ? step : best));

const TURNS = [0, 90, 180, 270] as const;

export type Asked = {
  frames: readonly Frame[];
  page: number | undefined;
  half: '' | 'fronts' | 'backs';
  /** How many backs are to come. */
  backs: number;
  /** Quarter turns of the view of the glass. */
  quarter: number;
  papers: readonly PaperSize[];
};

export function settingsOf(wish: Wish, { frames, page, half, backs, quarter, papers }: Asked): CaptureSettings {
  // Of the backs it is known how many there are.
  const sheets = half === 'backs' ? backs : Number(wish.sheets);
  return {
    source: wish.source,
    two_sided: wish.sides === 'both',
    ppi: wish.ppi,
    colour: wish.colour,
    paper: sizeOf(wish.paper, papers),
    frames:
      wish.source === 'platen' ? frames.map(({ x, y, width, height, angle }) => [x, y, width, height, angle]) : [],
    turn: wish.source === 'platen' ? (TURNS[quarter % 4] ?? 0) : 0,
    name: wish.name.trim() || 'page',
    place: wish.place,
    page: wish.place === 'end' ? null : (page ?? null),
    slow: wish.slow,
    sheets: wish.source === 'feeder' && Number.isInteger(sheets) && sheets > 0 ? sheets : null,
    half,
  };
}

/** The backs of fronts that are in: with the same station, as finely, and in the same colours. */
export function backsAfter(wish: Wish, { station, settings }: Run): Wish {
  return {
    ...wish,
    station: station ?? wish.station,
    source: 'feeder',
    sides: 'apart',
    ppi: settings.ppi,
    colour: settings.colour,
    name: settings.name,
    slow: settings.slow,
    place: 'end',
  };
}

/** Why it cannot be captured now, as one sentence. */
export function hindrance(
  wish: Wish,
  station: Station | undefined,
  frames: readonly Frame[],
  page: number | undefined,
) {
  if (!station) return 'Choose a station first.';
  const glass = station.platen;
  if (wish.source === 'platen' && glass) {
    const bad = frames.map((frame) => trouble(frame, glass)).find(Boolean);
    if (bad) return bad;
    if (wish.place === 'instead' && frames.length > 1) return 'One image replaces one page. Keep one frame.';
  }
  if (wish.place !== 'end' && page === undefined) return 'Choose the page in the fore-edge first.';
  if (wish.sheets && !(Number.isInteger(Number(wish.sheets)) && Number(wish.sheets) > 0))
    return 'The number of sheets is not a number. Count them, or leave it empty.';
  return undefined;
}

/** What a pixel takes of time, by colour, against one in colour (common practice, no source; as the server learns it). */
const SHARE = { bitonal: 0.5, grey: 0.5, colour: 1 };

/**
 * About how large and how long one capture gets, as the station was the times before: a fixed part for each job and image, and one
 * that grows with the square of the resolution.
 */
export function estimate(
  wish: Wish,
  station: Station,
  frames: readonly Frame[],
  papers: readonly PaperSize[],
): { images: number; bytes: number; seconds: number; each: boolean } {
  const bed = wish.source === 'platen' ? station.platen : station.feeder;
  const size =
    sizeOf(wish.paper, papers) ??
    (wish.source === 'feeder' ? [210, 297] : [bed?.width_mm ?? 210, bed?.height_mm ?? 297]);
  const areas =
    frames.length && wish.source === 'platen'
      ? frames.map((one) => one.width * one.height)
      : [(size[0] ?? 0) * (size[1] ?? 0)];
  const sides = wish.source === 'feeder' ? Math.max(1, Number(wish.sheets) || 1) * (wish.sides === 'both' ? 2 : 1) : 1;
  const area = areas.reduce((sum, one) => sum + one, 0) * sides;
  const pixels = area * (wish.ppi / 25.4) ** 2;
  const images = areas.length * sides;
  // Where sheets are not counted, it is told of each of them.
  const each = wish.source === 'feeder' && !(Number(wish.sheets) > 0);
  const jobs = wish.source === 'platen' ? areas.length : each ? 0 : 1;
  if (!bed) return { images, bytes: 0, seconds: 0, each };
  const { job_s, image_s, megapixel_s, pixel_bytes } = (wish.slow && station.feeder?.slow_pace) || bed.pace;
  return {
    images,
    each,
    bytes: pixels * (pixel_bytes[wish.colour] ?? 0),
    seconds: jobs * job_s + images * image_s + (pixels / 1e6) * SHARE[wish.colour] * megapixel_s,
  };
}

/** The wish that an order slip was kept from; its station is fitted afterwards. */
export function wishOf(slip: OrderSlip, papers: readonly PaperSize[]): Wish {
  const { settings } = slip;
  const [width, height] = settings.paper ?? [];
  const paper = papers.find((one) => one.width_mm === width && one.height_mm === height);
  return {
    station: slip.station ?? undefined,
    source: settings.source,
    sides: settings.two_sided ? 'both' : 'one',
    paper: paper?.name ?? 'each',
    ppi: settings.ppi,
    colour: settings.colour,
    name: settings.name,
    sheets: '',
    slow: settings.slow,
    place: 'end',
  };
}
