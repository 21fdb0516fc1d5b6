import { api, outlives, told } from './client';
import type { Doing } from './types';

type Made = { count: number };

/** Do something by hand to the pages of a stack, as they were seen; the server does it once under each nonce. */
export function change(stack: number, seen: number, nonce: string, doing: Doing): Promise<Made> {
  const body = { seen, doing, nonce };
  return told(
    api.POST('/api/v1/stacks/{stack_id}/changes', {
      params: { path: { stack_id: stack } },
      body,
      keepalive: outlives(body),
    }),
  );
}

/** Undo the last change, or do again the one undone last, whichever that is when it arrives; once under each nonce. */
export function turn(stack: number, way: 'undo' | 'redo', nonce: string): Promise<Made> {
  const params = { path: { stack_id: stack } };
  return told(api.POST('/api/v1/stacks/{stack_id}/changes/last', { params, body: { way, nonce }, keepalive: true }));
}
