import { type ComponentType, createElement, type LazyExoticComponent, lazy, type ReactElement, useState } from 'react';
import { NotThere } from './Guarded';

type Part<Props extends object> = { here?: ComponentType<Props>; later: LazyExoticComponent<ComponentType<Props>> };

/** A part that is fetched when it is first gone to, or before, by `fetch`: then it is there at once. */
export function view<Props extends object>(load: () => Promise<ComponentType<Props>>) {
  const fetched = async () => {
    part.here = await load();
    return { default: part.here };
  };
  const later = lazy(() =>
    fetched().catch((): never => {
      throw new NotThere();
    }),
  );
  const part: Part<Props> = { later };
  const shown = (props: Props): ReactElement => createElement(Shown<Props>, { part, props });
  return Object.assign(shown, { fetch: () => void fetched().catch(() => undefined) });
}

/** Whatever it began as, it stays: what was set in it would be gone with another. */
function Shown<Props extends object>({ part, props }: { part: Part<Props>; props: Props }) {
  const [here] = useState(() => part.here);
  return here ? createElement(here, props) : createElement(part.later as ComponentType<Props>, props);
}
