/**
 * The glass as it is looked at: its first look, the frames on it, and which way the view is turned. What a station answers is
 * taken for the look it was asked for, and for no other. Decides only.
 */

import { corners, drawn, type Frame } from '@/engine/geometry/frames';

type Look =
  | { stage: 'none' }
  /** Asked of the station; it has not begun. */
  | { stage: 'asked'; asked: number }
  /** Its picture is coming, or is there. */
  | { stage: 'coming' | 'seen'; nonce: string; picture: string };

/** A part of the glass, in mm: its upper left corner and its size. */
export type Part = { x: number; y: number; width: number; height: number };
/** A part that is looked at closely, with its own picture once that is there. */
export type Closer = { part: Part; asked: number; picture?: string };

export type Glass = {
  station: number | undefined;
  look: Look;
  frames: readonly Frame[];
  /** The frame in hand. */
  chosen: number | undefined;
  /** Frames were drawn by hand since the last look: proposals do not take their place. */
  drawn: boolean;
  /** As they were before the look that is under way: those whose items lie where they lay stay as they are. */
  before: readonly Frame[];
  /** The last look found nothing. */
  nothing: boolean;
  /** Its lid looked open at the last look. */
  lidOpen: boolean;
  closer: Closer | undefined;
  /** Quarter turns of the view. */
  quarter: number;
  /** Counts looks. */
  asked: number;
};

export const BARE: Glass = {
  station: undefined,
  look: { stage: 'none' },
  frames: [],
  chosen: undefined,
  drawn: false,
  before: [],
  nothing: false,
  lidOpen: false,
  closer: undefined,
  quarter: 0,
  asked: 0,
};

export type Happening =
  | { kind: 'station'; station: number | undefined }
  | { kind: 'look' }
  | { kind: 'begun'; asked: number; nonce: string; picture: string }
  | { kind: 'shown'; picture: string }
  | { kind: 'broken'; picture: string }
  | { kind: 'refused'; asked: number }
  | { kind: 'proposed'; nonce: string; frames: readonly Frame[]; lidOpen: boolean }
  | { kind: 'closer'; part: Part }
  | { kind: 'whole glass' }
  | { kind: 'closer begun'; asked: number; picture: string }
  | { kind: 'frames'; frames: readonly Frame[] }
  | { kind: 'choose'; frame: number | undefined }
  | { kind: 'delete'; frame: number }
  | { kind: 'new frame'; width: number; height: number }
  | { kind: 'turn view' };

export type Instruction =
  | { do: 'ask'; asked: number; station: number }
  | { do: 'ask closer'; asked: number; station: number; part: Part }
  | { do: 'propose'; nonce: string };

export function glass(state: Glass, happened: Happening): [Glass, Instruction[]] {
  const { look } = state;
  switch (happened.kind) {
    case 'station':
      // Another glass: what was seen and drawn is not on it.
      if (happened.station === state.station) return [state, []];
      return [{ ...BARE, station: happened.station, quarter: state.quarter, asked: state.asked }, []];
    case 'look': {
      if (state.station === undefined) return [state, []];
      const asked = state.asked + 1;
      const next: Glass = {
        ...state,
        asked,
        look: { stage: 'asked', asked },
        frames: [],
        chosen: undefined,
        drawn: false,
        before: state.frames.length ? state.frames : state.before,
        nothing: false,
        lidOpen: false,
        closer: undefined,
      };
      return [next, [{ do: 'ask', asked, station: state.station }]];
    }
    case 'begun':
      if (look.stage !== 'asked' || look.asked !== happened.asked) return [state, []];
      return [{ ...state, look: { stage: 'coming', nonce: happened.nonce, picture: happened.picture } }, []];
    case 'shown':
      if (look.stage !== 'coming' || look.picture !== happened.picture) return [state, []];
      return [{ ...state, look: { ...look, stage: 'seen' } }, [{ do: 'propose', nonce: look.nonce }]];
    case 'broken':
      if (!('picture' in look) || look.picture !== happened.picture) return [state, []];
      return [asBefore(state), []];
    case 'refused':
      if (look.stage !== 'asked' || look.asked !== happened.asked) return [state, []];
      return [asBefore(state), []];
    case 'proposed': {
      const mine = 'nonce' in look && look.nonce === happened.nonce;
      if (!mine) return [state, []];
      const { lidOpen } = happened;
      if (state.drawn) return [{ ...state, lidOpen }, []];
      // Where nothing is seen there may be something all the same: white on a white lid.
      const nothing = happened.frames.length === 0;
      const frames = nothing ? state.before : happened.frames.map((one) => state.before.find(near(one)) ?? one);
      return [{ ...state, frames, before: [], nothing, lidOpen }, []];
    }
    case 'closer': {
      if (state.station === undefined || isLooking(state)) return [state, []];
      const { part } = happened;
      const asked = state.asked + 1;
      return [
        { ...state, asked, closer: { part, asked } },
        [{ do: 'ask closer', asked, station: state.station, part }],
      ];
    }
    case 'whole glass':
      return [{ ...state, closer: undefined }, []];
    case 'closer begun':
      if (state.closer?.asked !== happened.asked) return [state, []];
      return [{ ...state, closer: { ...state.closer, picture: happened.picture } }, []];
    case 'frames':
      return [{ ...state, frames: happened.frames, drawn: true }, []];
    case 'choose':
      return [{ ...state, chosen: happened.frame }, []];
    case 'delete': {
      const frames = state.frames.filter((_, at) => at !== happened.frame);
      // The hand stays on the glass: on the frame that comes to its place.
      const chosen = frames.length ? Math.min(happened.frame, frames.length - 1) : undefined;
      return [{ ...state, frames, chosen, drawn: true }, []];
    }
    case 'new frame': {
      const { width, height } = happened;
      const frame = drawn(width * 0.2, height * 0.2, width * 0.8, height * 0.7);
      return [{ ...state, frames: [...state.frames, frame], chosen: state.frames.length, drawn: true }, []];
    }
    case 'turn view':
      return [{ ...state, quarter: (state.quarter + 1) % 4 }, []];
  }
}

/** A look that came to nothing takes no frames with it. */
function asBefore(state: Glass): Glass {
  const frames = state.drawn || state.frames.length ? state.frames : state.before;
  return { ...state, look: { stage: 'none' }, frames, before: [] };
}

/** An item that was not touched is found again within so many mm. */
const NEAR_MM = 3;
const near = (one: Frame) => (other: Frame) =>
  Math.hypot(one.x - other.x, one.y - other.y) <= NEAR_MM &&
  Math.abs(one.width - other.width) <= 2 * NEAR_MM &&
  Math.abs(one.height - other.height) <= 2 * NEAR_MM;

/** The picture of what lies there, and whether it is still coming. */
export const pictureOf = ({ look }: Glass): string | undefined => ('picture' in look ? look.picture : undefined);
export const isLooking = ({ look }: Glass): boolean => look.stage === 'asked' || look.stage === 'coming';

/** The rectangle around a frame, with a little beside it, within the glass: what is looked at closely. */
export function partOf(frame: Frame, bed: { width_mm: number; height_mm: number }): Part {
  const xs = corners(frame).map(([x]) => x);
  const ys = corners(frame).map(([, y]) => y);
  const beside = 2;
  const left = Math.max(0, Math.min(...xs) - beside);
  const top = Math.max(0, Math.min(...ys) - beside);
  return {
    x: left,
    y: top,
    width: Math.min(bed.width_mm, Math.max(...xs) + beside) - left,
    height: Math.min(bed.height_mm, Math.max(...ys) + beside) - top,
  };
}

/** The most that a part of the glass is enlarged. */
const MOST = 8;
/** How the plane is laid so that a part fills it: in shares of the plane, moved first, then enlarged about its middle. */
export function enlarged(part: Part, bed: { width_mm: number; height_mm: number }) {
  const scale = Math.min(MOST, bed.width_mm / part.width, bed.height_mm / part.height);
  return {
    scale,
    across: 0.5 - (part.x + part.width / 2) / bed.width_mm,
    down: 0.5 - (part.y + part.height / 2) / bed.height_mm,
  };
}

/** A movement by arrow key as it is seen, on the glass however the view is turned. */
export function onGlass([dx, dy]: readonly [number, number], quarter: number): [number, number] {
  switch (((quarter % 4) + 4) % 4) {
    case 1:
      return [dy, -dx];
    case 2:
      return [-dx, -dy];
    case 3:
      return [-dy, dx];
    default:
      return [dx, dy];
  }
}
