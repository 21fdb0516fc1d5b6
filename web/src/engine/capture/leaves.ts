/** Fronts and backs captured apart, as leaves: what is shown before it is applied. The rule is core/arrange/order.py's. */

export type Leaf = { front: number; back: number | null };

export type Leaves = { leaves: Leaf[]; trouble?: string };

/** Which back belongs to which front; where the counts do not fit, as far as they go, and why. */
export function leavesOf(fronts: number, backs: number, single: ReadonlySet<number>, reverse: boolean): Leaves {
  const withBack = Array.from({ length: fronts }, (_, sheet) => sheet).filter((sheet) => !single.has(sheet));
  const backOf = new Map(withBack.map((sheet, place) => [sheet, reverse ? withBack.length - 1 - place : place]));
  const leaves = Array.from({ length: fronts }, (_, front) => {
    const back = backOf.get(front) ?? null;
    return { front, back: back !== null && back < backs ? back : null };
  });
  if (backs === withBack.length) return { leaves };
  const counted = `There are ${fronts} fronts and ${backs} backs`;
  if (backs < withBack.length) {
    const missing = withBack.length - backs;
    const which = missing === 1 ? 'the sheet that has no back' : `the ${missing} sheets that have no back`;
    return { leaves, trouble: `${counted}: mark ${which}, or capture the backs again.` };
  }
  const extra = backs - withBack.length;
  return {
    leaves,
    trouble:
      withBack.length < fronts
        ? `${counted}: take the mark off ${Math.min(extra, fronts - withBack.length)} of the sheets, or capture the backs again.`
        : `${counted}: ${extra} too many, so two sheets may have gone through as one; capture the fronts again.`,
  };
}
