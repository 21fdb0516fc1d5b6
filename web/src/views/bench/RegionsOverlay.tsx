import type { Page } from '@/api/types';
import { type Matrix, mapped } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { Lines } from './tools/lines';

export type Region = NonNullable<NonNullable<Page['measurements']>['regions']>[number];
export type RegionsOverlayProps = { regions: readonly Region[]; toScreen: Matrix; pane: Size };

const WORDS: Record<Region['kind'], string> = {
  text: 'text',
  'line art': 'line art',
  solid: 'solid area',
  fill: 'pale fill',
  picture: 'picture',
  'half-tone': 'half-tone',
  inverse: 'white on black',
};
/** Kinds are told by their word and by their line; what is in no outline is bare paper. */
const DASHES: Partial<Record<Region['kind'], string>> = { text: '2 3', fill: '7 4', inverse: '7 3 2 3' };

/** Narrower ones are told by their line alone: their words would lie over each other. */
const LEAST_PX = 70;

/** What was found on the page besides paper, drawn over it as captured. */
export function RegionsOverlay({ regions, toScreen, pane }: RegionsOverlayProps) {
  return (
    <Lines pane={pane}>
      {regions.map((region) => {
        const points = region.outline.map((point) => mapped(toScreen, point));
        const [x, y] = points.reduce((one, other) => (other[1] < one[1] ? other : one), points[0] ?? [0, 0]);
        const across = points.map((point) => point[0]);
        const roomy = Math.max(...across) - Math.min(...across) >= LEAST_PX;
        const d = `M${points.map((point) => point.map((value) => value.toFixed(1)).join(' ')).join('L')}Z`;
        return (
          <g key={d} data-testid="region" data-kind={region.kind}>
            <path d={d} className="fill-none stroke-paper" strokeWidth={3.5} />
            <path d={d} className="fill-none stroke-mark" strokeWidth={1.5} strokeDasharray={DASHES[region.kind]} />
            {region.kind !== 'text' && roomy && (
              <text
                x={x + 4}
                y={Math.max(14, y - 5)}
                className="fill-mark stroke-paper font-mono text-small"
                strokeWidth={3}
                paintOrder="stroke"
              >
                {WORDS[region.kind]} {Math.round(100 * region.level)} %
              </text>
            )}
          </g>
        );
      })}
    </Lines>
  );
}
