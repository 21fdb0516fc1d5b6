/** Sends a file by the tus resumable upload protocol, from the byte where it stopped, and has it taken in. */

import { type DetailedError, Upload as Tus } from 'tus-js-client';
import { told as answered, api, csrfToken, Refusal, refusalFrom } from '@/api/client';
import type { Send, Told } from './queue';

const PIECE = 8 * 1024 * 1024;
const LONGEST = 16_000;
/** Waits before each new attempt, in ms: a server that is started anew is back within half a minute, room in an hour. */
const ATTEMPTS = [500, 1000, 2000, 4000, 8000, ...Array<number>(220).fill(LONGEST)];
/** So often is tried what may well end the same. */
const FEW = 6;

export const sendByTus: Send = async ({ file, id, batch, index }, told, again, signal) => {
  await bytesOf(file, id, told, signal);
  for (let attempt = 0; ; attempt++) {
    try {
      const { pages, left_out } = await answered(
        api.POST('/api/v1/uploads/{upload_id}/take-in', { params: { path: { upload_id: id }, query: { again } } }),
      );
      return { pages, leftOut: left_out };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      // It was taken in before, and the answer was lost on the way.
      if (error.status === 404 && attempt > 0) return { pages: await pagesAt(batch, index), leftOut: [] };
      if (!goesOn(error, attempt)) throw error;
      told.held(error.message);
      await pause(ATTEMPTS[attempt] ?? LONGEST, signal);
    }
  }
};

async function pagesAt(batch: number, index: number): Promise<number[]> {
  const params = { path: { batch_id: batch, index } };
  return (await answered(api.GET('/api/v1/batches/{batch_id}/files/{index}', { params }))).pages;
}

/** Whether the same is tried again by itself: what the machine is short of comes back, what is wrong with a file does not. */
export function goesOn({ status }: Refusal, attempt: number): boolean {
  if (attempt >= ATTEMPTS.length) return false;
  return status === 0 || status === 503 || status === 507 || (status >= 500 && attempt < FEW);
}

function pause(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      reject(signal.reason);
    });
  });
}

function bytesOf(file: File, id: number, told: Told, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const sending = new Tus(file, {
      uploadUrl: `/api/v1/uploads/${id}`,
      uploadSize: file.size,
      chunkSize: PIECE,
      retryDelays: ATTEMPTS,
      storeFingerprintForResuming: false,
      // Asked for each piece: it may have been renewed in the meantime.
      onBeforeRequest: (request) => request.setHeader('X-CSRFToken', csrfToken()),
      onProgress: told.sent,
      onChunkComplete: () => told.held(''),
      onShouldRetry: (error, attempt) => {
        const refusal = refusalOf(error);
        // Another piece of it is still being written, or was: it is asked where it stands.
        if (refusal.status === 409) return attempt < FEW;
        if (!goesOn(refusal, attempt)) return false;
        told.held(refusal.message);
        return true;
      },
      onSuccess: () => resolve(),
      onError: (error) => reject(refusalOf(error)),
    });
    signal.addEventListener('abort', () => {
      void sending.abort();
      reject(signal.reason);
    });
    sending.start();
  });
}

function refusalOf(error: Error | DetailedError): Refusal {
  const response = 'originalResponse' in error ? error.originalResponse : null;
  return refusalFrom(response?.getStatus() ?? 0, response?.getBody() ?? '');
}
