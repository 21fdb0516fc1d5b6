/** An order slip in hand: what it says, until it is kept. */

import type { OrderSlip, Original, PaperSize, SlipJob, Stack } from '@/api/types';
import { settingsOf, type Wish, wishOf } from './wish';

export type Asked = OrderSlip['asks'][number];
export type Rule = Pick<Stack, 'new_document_after' | 'pages_a_document'>;
export type Draft = Rule & {
  name: string;
  wish: Wish;
  treatment: string;
  naming: string;
  asks: readonly Asked[];
  original: Original;
  shared: boolean;
  /** Destinations that what is bound is sent to. */
  send_to: readonly number[];
};
export type Answers = { title: string; original: Original };

export const NOTHING: Original = { year: '', box: '', shelf: '', position: '', after: '', until: null, by: '' };
export const NOTHING_SAID: Answers = { title: '', original: NOTHING };
/** In the order in which they are asked. */
export const ASKS: readonly Asked[] = ['title', 'year', 'box', 'shelf', 'position', 'after'];

/** A new slip, from what is asked of a station now and what becomes of the stack's pages. */
export const draftFrom = (wish: Wish, stack: Stack): Draft => ({
  name: '',
  wish: { ...wish, place: 'end', sheets: '' },
  treatment: stack.treatment,
  new_document_after: stack.new_document_after,
  pages_a_document: stack.pages_a_document,
  naming: '',
  asks: [],
  original: NOTHING,
  shared: true,
  send_to: [],
});

/** A kept slip, opened. */
export const draftOf = (slip: OrderSlip, papers: readonly PaperSize[]): Draft => ({
  name: slip.name,
  wish: wishOf(slip, papers),
  treatment: slip.treatment,
  new_document_after: slip.new_document_after,
  pages_a_document: slip.pages_a_document,
  naming: slip.naming,
  asks: slip.asks,
  original: slip.original,
  shared: slip.shared,
  send_to: slip.send_to,
});

/** What is kept of a draft; undefined while it names no station. */
export function jobOf(draft: Draft, papers: readonly PaperSize[]): SlipJob | undefined {
  const { wish, ...rest } = draft;
  if (wish.station === undefined) return undefined;
  const settings = settingsOf(wish, { frames: [], page: undefined, half: '', backs: 0, quarter: 0, papers });
  return { ...rest, asks: [...draft.asks], send_to: [...draft.send_to], station: wish.station, settings };
}

/** Why it cannot be kept, as one sentence. */
export function unfit({ name, wish }: Draft): string | undefined {
  if (!name.trim()) return 'Give the slip a name.';
  if (wish.station === undefined) return 'Choose a station.';
  return wish.source === 'feeder' && wish.sides === 'apart'
    ? 'Fronts and backs apart need a hand in between.'
    : undefined;
}

/** What is asked for, put on or taken off, in its order. */
export const withAsked = (asks: readonly Asked[], one: Asked, on: boolean): Asked[] =>
  ASKS.filter((asked) => (asked === one ? on : asks.includes(asked)));

/** What a slip asks for and nobody has said. */
export const unsaid = (asks: readonly Asked[], { title, original }: Answers): Asked[] =>
  asks.filter((asked) => !(asked === 'title' ? title : (original[asked] ?? '')).trim());

/** The slips with one of them a place further up or down; undefined where it has no such neighbour. */
export function shifted(ids: readonly number[], id: number, by: -1 | 1): number[] | undefined {
  const at = ids.indexOf(id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= ids.length) return undefined;
  const next = ids.filter((one) => one !== id);
  next.splice(to, 0, id);
  return next;
}
