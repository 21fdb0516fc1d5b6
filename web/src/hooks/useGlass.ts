import { useCallback, useEffect, useRef, useState } from 'react';
import { prescanOf, proposedFrames } from '@/api/capture';
import type { Station } from '@/api/types';
import { BARE, type Glass, glass, type Happening } from '@/engine/capture/glass';
import { notify } from '@/engine/notices';

/** The glass of a station: does what `glass` decides. `advice` says what is wrong with the station. */
export function useGlass(station: Station | undefined, advice: () => Promise<string | undefined>) {
  const [state, setState] = useState<Glass>(BARE);
  const now = useRef(state);
  const advised = useRef(advice);
  useEffect(() => {
    advised.current = advice;
  });
  const happen = useCallback((happened: Happening): void => {
    const [after, instructions] = glass(now.current, happened);
    now.current = after;
    setState(after);
    for (const one of instructions) {
      if (one.do === 'ask')
        prescanOf(one.station).then(
          (begun) => happen({ kind: 'begun', asked: one.asked, ...begun }),
          (problem: Error) => {
            notify(problem.message);
            happen({ kind: 'refused', asked: one.asked });
          },
        );
      else if (one.do === 'ask closer')
        prescanOf(one.station, one.part).then(
          ({ picture }) => happen({ kind: 'closer begun', asked: one.asked, picture }),
          // What is there already is shown enlarged all the same.
          (problem: Error) => notify(problem.message),
        );
      else
        proposedFrames(one.nonce).then(
          (found) => happen({ kind: 'proposed', nonce: one.nonce, ...found }),
          (problem: Error) => notify(problem.message),
        );
    }
  }, []);
  const id = station?.platen ? station.id : undefined;
  useEffect(() => happen({ kind: 'station', station: id }), [happen, id]);
  const broken = async (picture: string) => {
    happen({ kind: 'broken', picture });
    notify((await advised.current()) || 'The station did not send a picture. Look at it, then try again.');
  };
  return { state, happen, broken };
}

export type GlassHands = ReturnType<typeof useGlass>;
