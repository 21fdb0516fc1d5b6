import type { OrderSlip } from '@/api/types';
import { COLOUR_WORDS } from './colours';

/** What an order slip does, in a line. */
export function slipWords({ station_name, settings, treatment }: OrderSlip): string {
  const source =
    settings.source === 'platen' ? 'glass' : settings.two_sided ? 'feeder, both sides' : 'feeder, one side';
  const slowly = settings.slow ? ['fed slowly'] : [];
  return [
    `${station_name}, ${source}`,
    ...slowly,
    `${settings.ppi} ppi`,
    COLOUR_WORDS[settings.colour],
    treatment,
  ].join(' · ');
}

/** Whose names they are that a slip makes; one alone is that of all its stacks. */
export function nextWords(names: readonly string[], zone: string): string {
  const asked = names.some((name) => name.includes('‹'))
    ? ' What stands in ‹marks› is asked before the first sheet.'
    : '';
  const alike =
    names.length === 1 && !asked ? ' All of them have the same: {counter} or {time} would tell them apart.' : '';
  return `The next stacks.${asked}${alike} Dates and times are those of ${zone}.`;
}
