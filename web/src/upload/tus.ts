/** Sends a file by the tus resumable upload protocol, from the byte where it stopped, and has it taken in. */

import { type DetailedError, Upload as Tus } from 'tus-js-client';
import { csrfToken, post, type Refusal, refusalFrom } from '../api/client';
import type { TakenIn } from '../api/types';
import type { Send } from './queue';

const PIECE = 8 * 1024 * 1024;
/** Waits before each new attempt, in ms: a server that is started anew is back within half a minute. */
const ATTEMPTS = [500, 1000, 2000, 4000, 8000, 16_000];

export const sendByTus: Send = async ({ file, id }, onSent, again) => {
  await bytesOf(file, id, onSent);
  const { pages, left_out } = await post<TakenIn>(`/api/v1/uploads/${id}/take-in?again=${again}`, {});
  return { pages, leftOut: left_out };
};

function bytesOf(file: File, id: number, onSent: (bytes: number) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    new Tus(file, {
      uploadUrl: `/api/v1/uploads/${id}`,
      uploadSize: file.size,
      chunkSize: PIECE,
      retryDelays: ATTEMPTS,
      storeFingerprintForResuming: false,
      headers: { 'X-CSRFToken': csrfToken() },
      onProgress: onSent,
      onSuccess: () => resolve(),
      onError: (error) => reject(refusalOf(error)),
    }).start();
  });
}

function refusalOf(error: Error | DetailedError): Refusal {
  const response = 'originalResponse' in error ? error.originalResponse : null;
  return refusalFrom(response?.getStatus() ?? 0, response?.getBody() ?? '');
}
