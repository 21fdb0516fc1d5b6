/** How deliveries and destinations are spoken of. */

import type { Delivery, Place } from '@/api/types';
import { time } from './figures';

export const KINDS: Record<Place['kind'], string> = {
  folder: 'Folder',
  sftp: 'SFTP',
  storage: 'Object storage',
  mail: 'E-mail',
};

/** Where a place is, in a line. */
export function whereWords(place: Place): string {
  if (place.kind === 'folder') return place.path;
  if (place.kind === 'sftp') return `${place.user}@${place.host}, ${place.folder || 'its first folder'}`;
  if (place.kind === 'storage') return `${place.bucket} at ${place.endpoint}`;
  return place.recipients?.length ? `to ${place.recipients.join(', ')}` : `from ${place.sender}`;
}

export type Stands = 'going' | 'arrived' | 'held' | 'asks' | 'over';

/** How a delivery stands: in words, and as which of five kinds. */
export function standing(one: Delivery): { stands: Stands; words: string } {
  if (one.state === 'arrived') {
    if (one.missing) return { stands: 'asks', words: 'lost' };
    return { stands: 'arrived', words: one.proof === 'read' ? 'arrived, read back' : 'taken by the server' };
  }
  if (one.state === 'stuck') return { stands: 'asks', words: 'waits for you' };
  if (one.state === 'cancelled') return { stands: 'over', words: 'given up' };
  if (one.held) return { stands: 'held', words: 'held' };
  if (one.next_try_at) return { stands: 'going', words: `again at ${time(one.next_try_at)}` };
  return {
    stands: 'going',
    words: { waiting: 'waits its turn', sending: 'is being sent', proving: 'is read back' }[one.state],
  };
}

/** What stands below a delivery: what is in the way, or what came of the last look. */
export function remark(one: Delivery): string {
  return one.missing || (one.state === 'arrived' ? one.check_said : one.said);
}

/** Kinds of documents that can be sent. */
export const TAKES = ['archive', 'access', 'export'] as const;
export const TAKES_WORDS: Record<(typeof TAKES)[number], string> = {
  archive: 'documents for the archive (PDF/A)',
  access: 'access copies',
  export: 'exports: images, text, tables, packages',
};
