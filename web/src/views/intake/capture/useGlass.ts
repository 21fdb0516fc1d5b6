import { useEffect, useState } from 'react';
import { proposedFrames } from '../../../api/capture';
import type { Station } from '../../../api/types';
import { drawn, type Frame } from '../../../geometry/frames';
import { notify } from '../../../parts/Notices';

/** The glass as it is looked at: its prescan, the frames on it, and which way it is turned. */
export function useGlass(station: Station | undefined, advice: () => Promise<string | undefined>) {
  const [nonce, setNonce] = useState<string>();
  const [looking, setLooking] = useState(false);
  const [frames, setFrames] = useState<Frame[]>([]);
  const [chosen, setChosen] = useState<number>();
  const [quarter, setQuarter] = useState(0);
  useEffect(() => {
    if (chosen === undefined) return;
    requestAnimationFrame(() => document.querySelector<SVGElement>(`[aria-label^="Frame ${chosen + 1},"]`)?.focus());
  }, [chosen]);

  const look = () => {
    if (!station?.platen) return;
    setFrames([]);
    setChosen(undefined);
    setLooking(true);
    setNonce(newNonce());
  };
  const looked = async () => {
    setLooking(false);
    if (!nonce) return;
    try {
      const found = await proposedFrames(nonce);
      setFrames((drawnMeanwhile) => (drawnMeanwhile.length ? drawnMeanwhile : found));
    } catch (problem) {
      notify((problem as Error).message);
    }
  };
  const failed = async () => {
    setLooking(false);
    setNonce(undefined);
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
    setNonce(undefined);
    setChosen(undefined);
  };
  const turnView = () => setQuarter((quarter + 1) % 4);
  const picture = nonce && station ? `/api/v1/stations/${station.id}/prescan/${nonce}.jpg` : undefined;
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

const newNonce = () =>
  crypto.getRandomValues(new Uint32Array(4)).reduce((text, word) => text + word.toString(16).padStart(8, '0'), '');
