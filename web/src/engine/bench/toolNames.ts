/** What the pointer does on the original. */
export type Tool = 'move' | 'corners' | 'level' | 'borders' | 'split';
/** How original and corrected page are compared. */
export type Compare = 'beside' | 'curtain' | 'single' | 'difference';
