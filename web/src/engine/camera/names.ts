/** The highest number that a picture of this name has already: "page 007.jpg" is 7. */
export function lastNumber(there: readonly { source: string }[], prefix: string): number {
  return there.reduce((last, { source }) => {
    if (!source.startsWith(`${prefix} `)) return last;
    const number = /^(\d{1,6})\.\w+$/.exec(source.slice(prefix.length + 1))?.[1];
    return Math.max(last, Number(number ?? 0));
  }, 0);
}
