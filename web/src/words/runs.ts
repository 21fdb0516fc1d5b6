import type { Run } from '@/api/types';
import type { Tilts } from '@/engine/capture/tilts';
import { counted, figure } from './figures';

/** How a capture stands, or how it ended: what did not come is never said to be in. */
export function runWords(run: Run): string {
  switch (run.state) {
    case 'wanted':
      return 'Waits for the station';
    case 'running':
      return 'Capturing';
    case 'pausing':
      return 'Pausing after this image';
    case 'stopped':
      return run.problem.startsWith('Paused') ? 'Paused' : 'Stopped';
    case 'finishing':
      return 'Ending after this image';
    case 'cancelling':
      return 'Being discarded';
    case 'cancelled':
      return run.outcome || 'Discarded: nothing had come.';
    case 'done':
      return run.outcome || `Finished: ${run.expected ? 'all' : 'what came'} is in the stack`;
  }
}

/** What was laid in, asked for, and came, as far as it was counted. */
export function cameWords({ settings, expected, received, state }: Run): string {
  if (state === 'cancelled') return '';
  const laid = settings.sheets ? [`${counted(settings.sheets, 'sheet')} laid in`] : [];
  const came = expected ? `${received} of ${counted(expected, 'image')} came` : `${counted(received, 'image')} came`;
  return [...laid, came].join(' · ');
}

/** That sheets come in tilted, and what to do about it. */
export function tiltWords({ largest, grows }: Tilts): string {
  return `Sheets come in tilted, by up to ${figure(largest, 1, '°')}${grows ? ' and more from sheet to sheet' : ''}. Set the guides snug against the paper.`;
}
