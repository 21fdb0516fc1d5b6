/** A camera of this machine: what it sees, frame by frame, and its finest picture. */

import { reducedSize, SHARPNESS_PX } from './session';

/** Why there is no camera, as one sentence that says what to do. */
export class NoCamera extends Error {}

export type Source = {
  readonly video: HTMLVideoElement;
  readonly name: string;
  /** Cameras that there are besides. */
  readonly others: readonly { id: string; name: string }[];
  /** The frame that is seen now, no finer than sharpness is judged on. */
  frame(): Promise<ImageBitmap>;
  /** Resolves with the next frame that comes. */
  next(): Promise<void>;
  /** The finest picture that the camera gives. */
  picture(): Promise<Blob>;
  /** Called once when the camera is taken away. */
  onEnd(ended: () => void): void;
  close(): void;
};

const REFUSALS: Record<string, string> = {
  NotAllowedError:
    'The browser was not given leave to use the camera. Allow it in the address line, then open the camera again.',
  NotFoundError: 'This machine has no camera. Connect one, or add photographs as files.',
  NotReadableError: 'Another program is using the camera. Close it there, then open it again.',
  OverconstrainedError: 'That camera is not connected any more. Choose another one.',
};

export async function openCamera(id: string | undefined): Promise<Source> {
  const media = navigator.mediaDevices as MediaDevices | undefined;
  if (!media)
    throw new NoCamera(
      'Browsers give a camera to secure addresses only (https). Ask whoever looks after Hollow Stack for one, or add photographs as files.',
    );
  const finest = { width: { ideal: 3840 }, height: { ideal: 2160 } };
  const which = id ? { deviceId: { exact: id } } : { facingMode: { ideal: 'environment' } };
  let stream: MediaStream;
  try {
    stream = await media.getUserMedia({ video: { ...which, ...finest }, audio: false });
  } catch (problem) {
    const name = problem instanceof DOMException ? problem.name : '';
    throw new NoCamera(REFUSALS[name] ?? 'The camera could not be opened. Connect it again, then try once more.');
  }
  const [track] = stream.getVideoTracks();
  if (!track) throw new NoCamera(REFUSALS.NotFoundError);
  const video = document.createElement('video');
  video.muted = true;
  video.playsInline = true;
  video.srcObject = stream;
  await video.play();
  // Names are told only once leave was given.
  const devices = (await media.enumerateDevices()).filter(({ kind }) => kind === 'videoinput');
  const mine = track.getSettings().deviceId;
  const others = devices
    .filter(({ deviceId }) => deviceId !== mine)
    .map(({ deviceId, label }, at) => ({ id: deviceId, name: label || `Camera ${at + 2}` }));
  return {
    video,
    name: track.label || 'Camera',
    others,
    frame: () => {
      const [resizeWidth, resizeHeight] = reducedSize(video.videoWidth, video.videoHeight, SHARPNESS_PX);
      return createImageBitmap(video, { resizeWidth, resizeHeight, resizeQuality: 'medium' });
    },
    next: () =>
      new Promise((resolve) => {
        if ('requestVideoFrameCallback' in video) video.requestVideoFrameCallback(() => resolve());
        else setTimeout(resolve, 66);
      }),
    picture: () => finestOf(track, video),
    onEnd: (ended) => track.addEventListener('ended', ended, { once: true }),
    close: () => {
      for (const one of stream.getTracks()) one.stop();
      video.srcObject = null;
    },
  };
}

/** The camera's own photograph where the browser takes one, which is finer than its stream; else a frame of that. */
async function finestOf(track: MediaStreamTrack, video: HTMLVideoElement): Promise<Blob> {
  if ('ImageCapture' in window) {
    try {
      const blob = await new ImageCapture(track).takePhoto();
      const { width, height } = await sizeOf(blob);
      if (width * height >= video.videoWidth * video.videoHeight) return blob;
    } catch {
      // Some cameras promise photographs and give none: a frame it is.
    }
  }
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [video.videoWidth, video.videoHeight];
  canvas.getContext('2d')?.drawImage(video, 0, 0);
  return new Promise((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new NoCamera('The camera gave no picture. Try again.'))),
      'image/jpeg',
      0.95,
    ),
  );
}

async function sizeOf(blob: Blob): Promise<{ width: number; height: number }> {
  const bitmap = await createImageBitmap(blob);
  const { width, height } = bitmap;
  bitmap.close();
  return { width, height };
}

/** A picture, reduced to what sharpness is judged on. */
export async function reducedPicture(blob: Blob): Promise<ImageBitmap> {
  const whole = await createImageBitmap(blob);
  const [resizeWidth, resizeHeight] = reducedSize(whole.width, whole.height, SHARPNESS_PX);
  const reduced = await createImageBitmap(whole, { resizeWidth, resizeHeight, resizeQuality: 'high' });
  whole.close();
  return reduced;
}

declare class ImageCapture {
  constructor(track: MediaStreamTrack);
  takePhoto(): Promise<Blob>;
}
