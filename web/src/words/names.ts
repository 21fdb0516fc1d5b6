/** Names that stand where nobody has given one. */

const DAY = { day: 'numeric', month: 'long', year: 'numeric' } as const;

/** The name of a stack that nobody has named. */
export const namedByDay = (day: Date) => `Stack of ${day.toLocaleDateString('en-GB', DAY)}`;

/** Whether a stack still has the name that it began with. */
export const isNamedByDay = (name: string) => /^Stack of \d{1,2} \p{L}+ \d{4}$/u.test(name.trim());
