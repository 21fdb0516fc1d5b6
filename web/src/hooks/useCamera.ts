import { useEffect, useSyncExternalStore } from 'react';
import { Camera, type Seen } from '@/engine/camera/camera';
import { openEyes } from '@/engine/camera/eyes';
import { lastNumber } from '@/engine/camera/names';
import { openCamera, reducedPicture } from '@/engine/camera/source';
import { endingOf, tagged } from '@/engine/camera/tags';
import { takeIn, type Where } from '@/engine/uploads/stackUploads';

const TURNS = [0, 90, 180, 270] as const;

/** One camera a browser: it stays open while a new stack gets its own address. */
const camera = new Camera({
  open: openCamera,
  eyes: openEyes,
  reduced: reducedPicture,
  now: () => performance.now() / 1000,
});

/** The number of the last picture before it was opened: those taken since go on from there. */
let before = 0;

export type CameraHands = {
  seen: Seen;
  open: (id?: string) => void;
  release: () => void;
  /** Sends again what could not be sent. */
  again: () => void;
};

export type CameraWish = {
  on: boolean;
  automatic: boolean;
  quarter: number;
  /** What pictures are called, and those that there are. */
  prefix: string;
  there: readonly { source: string }[];
  /** Files are on their way. */
  sending: boolean;
  /** The stack that pictures go into, begun with the first. */
  stack: (name: string) => Promise<number>;
  where: () => Where;
};

export function useCamera({ on, automatic, quarter, prefix, there, sending, stack, where }: CameraWish): CameraHands {
  const seen = useSyncExternalStore(camera.subscribe, camera.get);
  useEffect(() => {
    if (!on) return;
    void camera.open();
    return () => camera.leave();
  }, [on]);
  useEffect(() => {
    camera.automatic = automatic;
    if (camera.get().taken === 0) before = lastNumber(there, prefix);
    camera.keep = async ({ picture, taken, number }) => {
      const name = `${prefix} ${String(before + number).padStart(3, '0')}.${endingOf(picture.type)}`;
      const turn = TURNS[quarter % 4] ?? 0;
      const bytes = tagged(new Uint8Array(await picture.arrayBuffer()), taken, turn);
      const file = new File([bytes as BlobPart], name, { type: picture.type, lastModified: taken.getTime() });
      await takeIn(await stack(name), [{ file, name }], where());
    };
  });
  // A file can be chosen again, a picture is here alone.
  const only = seen.held > 0 || (seen.taken > 0 && sending);
  useEffect(() => {
    if (!only) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [only]);
  return {
    seen,
    open: (id) => void camera.open(id),
    release: () => void camera.release(),
    again: () => camera.again(),
  };
}
