import { QueryClient } from '@tanstack/react-query';
import { notify } from '@/engine/notices';
import { Refusal } from './client';

/** All answers of the server that views hold. */
export const cache = new QueryClient({
  defaultOptions: {
    queries: { retry: (count, error) => count < 2 && !(error instanceof Refusal && !error.passing) },
    mutations: { onError: (error) => notify(error.message) },
  },
});
