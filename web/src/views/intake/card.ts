/** A station, a slip, a find: one card of the row, as wide as every other. */
export const CARD = 'flex w-38 shrink-0 flex-col rounded-sm border px-3 py-1.5 text-left text-small leading-4.5';
