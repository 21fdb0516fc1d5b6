import { useEffect } from 'react';
import { useKept } from './useKept';

/** Light, dim, or as the system wishes; the surround of pages is the same in all. */
export type Chrome = 'system' | 'light' | 'dark';

export function useChrome(): [Chrome, (chrome: Chrome) => void] {
  const [{ chrome }, keep] = useKept<{ chrome: Chrome }>('chrome', { chrome: 'system' });
  useEffect(() => {
    document.documentElement.dataset.chrome = chrome;
  }, [chrome]);
  return [chrome, (next) => keep({ chrome: next })];
}
