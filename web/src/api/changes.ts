import { api, Refusal, told } from './client';
import type { Doing } from './types';

type Made = { count: number };
/** It arrives although the page that sent it is closed meanwhile; a browser takes no more than 64 kB so. */
const keepalive = (body: unknown) => JSON.stringify(body).length < 60_000;

/** Do something by hand to the pages of a stack, as they were seen; the server does it once under each nonce. */
export function change(stack: number, seen: number, nonce: string, doing: Doing): Promise<Made> {
  const body = { seen, doing, nonce };
  return told(
    api.POST('/api/v1/stacks/{stack_id}/changes', {
      params: { path: { stack_id: stack } },
      body,
      keepalive: keepalive(body),
    }),
  );
}

/** The change that undo, or redo, means now. */
export async function nextTurn(stack: number, way: 'undo' | 'redo'): Promise<number> {
  const history = await told(api.GET('/api/v1/stacks/{stack_id}/changes', { params: { path: { stack_id: stack } } }));
  const change = history[way];
  if (change === null)
    throw new Refusal(way === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.', 422);
  return change;
}

export function turn(stack: number, change: number, way: 'undo' | 'redo'): Promise<Made> {
  const params = { path: { stack_id: stack, change_id: change } };
  const keepalive = true;
  return told(
    way === 'undo'
      ? api.POST('/api/v1/stacks/{stack_id}/changes/{change_id}/undo', { params, keepalive })
      : api.POST('/api/v1/stacks/{stack_id}/changes/{change_id}/redo', { params, keepalive }),
  );
}
