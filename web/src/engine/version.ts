/** Which picture of a page is shown: as it was captured, or corrected. */
export type Version = 'original' | 'clean';

export const other = (version: Version): Version => (version === 'clean' ? 'original' : 'clean');
