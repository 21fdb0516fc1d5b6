import { type ComponentType, lazy } from 'react';
import { NotThere } from './Guarded';

/** A part that is fetched when it is first gone to, or before, by `fetch`. */
export function view<Props extends object>(load: () => Promise<ComponentType<Props>>) {
  const part = lazy<ComponentType<Props>>(async () => {
    try {
      return { default: await load() };
    } catch {
      throw new NotThere();
    }
  });
  return Object.assign(part, { fetch: () => void load().catch(() => undefined) });
}
