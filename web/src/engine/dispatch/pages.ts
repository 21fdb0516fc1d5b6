/** Pages named by their numbers, as people write them: "3, 7–9". */

/** The ids of pages that are named, in the order of the stack; or what is wrong, in a sentence. */
export function pagesNamed(
  text: string,
  pages: readonly { id: number; number: number }[],
): { ids: number[] } | { wrong: string } {
  const last = pages.reduce((most, { number }) => Math.max(most, number), 0);
  const wanted = new Set<number>();
  for (const part of text.split(/[,;]/)) {
    const piece = part.trim();
    if (!piece) continue;
    const found = /^(\d{1,6})(?:\s*[-–]\s*(\d{1,6}))?$/.exec(piece);
    if (!found) return { wrong: `“${piece}” names no page: write numbers such as 3, 7–9.` };
    const [from, to] = [Number(found[1]), Number(found[2] ?? found[1])].sort((a, b) => a - b) as [number, number];
    if (from < 1 || to > last) return { wrong: `There is no page ${from < 1 ? from : to}: the last one is ${last}.` };
    for (let number = from; number <= to; number++) wanted.add(number);
  }
  if (!wanted.size) return { wrong: 'No page is named: write numbers such as 3, 7–9.' };
  return { ids: pages.filter(({ number }) => wanted.has(number)).map(({ id }) => id) };
}

/** Numbers of pages as people write them. */
export function namedPages(numbers: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const number of [...numbers].sort((a, b) => a - b)) {
    const run = runs.at(-1);
    if (run && number <= run[1] + 1) run[1] = number;
    else runs.push([number, number]);
  }
  return runs.map(([from, to]) => (from === to ? `${from}` : `${from}–${to}`)).join(', ');
}
