/** The three modes in which a page is captured, or kept. */
export type Colour = 'bitonal' | 'grey' | 'colour';

export const COLOUR_WORDS: Record<Colour, string> = { bitonal: 'bitonal', grey: 'grey', colour: 'colour' };
/** Where it is first met on a screen. */
export const COLOUR_LABELS: Record<Colour, string> = { bitonal: 'bitonal (no greys)', grey: 'grey', colour: 'colour' };
