import { useEffect, useState } from 'react';
import { prescanOf, proposedFrames } from '@/api/capture';
import type { Station } from '@/api/types';
import { drawn, type Frame } from '@/engine/geometry/frames';
import { notify } from '@/ui/Notices';

/** The glass as it is looked at: its prescan, the frames on it, and which way it is turned. */
export function useGlass(station: Station | undefined, advice: () => Promise<string | undefined>) {
  const [seen, setSeen] = useState<{ nonce: string; picture: string }>();
  const [looking, setLooking] = useState(false);
  const [frames, setFrames] = useState<Frame[]>([]);
  const [chosen, setChosen] = useState<number>();
  const [quarter, setQuarter] = useState(0);
  useEffect(() => {
    if (chosen === undefined) return;
    requestAnimationFrame(() => document.querySelector<SVGElement>(`[aria-label^="Frame ${chosen + 1},"]`)?.focus());
  }, [chosen]);

  const look = async () => {
    if (!station?.platen) return;
    setFrames([]);
    setChosen(undefined);
    setLooking(true);
    try {
      setSeen(await prescanOf(station.id));
    } catch (problem) {
      setLooking(false);
      setSeen(undefined);
      notify((problem as Error).message);
    }
  };
  const looked = async () => {
    setLooking(false);
    if (!seen) return;
    try {
      const found = await proposedFrames(seen.nonce);
      setFrames((drawnMeanwhile) => (drawnMeanwhile.length ? drawnMeanwhile : found));
    } catch (problem) {
      notify((problem as Error).message);
    }
  };
  const failed = async () => {
    setLooking(false);
    setSeen(undefined);
    notify((await advice()) || 'The station did not send a picture: look at it, then try again.');
  };
  const addFrame = () => {
    const glass = station?.platen;
    if (!glass) return;
    setFrames([
      ...frames,
      drawn(glass.width_mm * 0.2, glass.height_mm * 0.2, glass.width_mm * 0.6, glass.height_mm * 0.5),
    ]);
    setChosen(frames.length);
  };
  const clear = () => {
    setFrames([]);
    setSeen(undefined);
    setChosen(undefined);
  };
  const turnView = () => setQuarter((quarter + 1) % 4);
  const picture = seen?.picture;
  const frame = chosen === undefined ? undefined : frames[chosen];
  return {
    picture,
    looking,
    frames,
    setFrames,
    frame,
    chosen,
    setChosen,
    quarter,
    turnView,
    look,
    looked,
    failed,
    addFrame,
    clear,
  };
}

export type GlassState = ReturnType<typeof useGlass>;
