import { useEffect } from 'react';

/** When what one came for is before one's eyes, and hands have not got to anything else. */
const LATER_MS = 2500;

/** Has parts fetched that are gone to from here, so that they are there when they are wanted, and when the line is not. */
export function useFetched(parts: readonly { fetch: () => void }[]): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      for (const part of parts) part.fetch();
    }, LATER_MS);
    return () => clearTimeout(timer);
  }, [parts]);
}
