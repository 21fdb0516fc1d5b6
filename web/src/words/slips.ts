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
