import type { Rect } from '@/engine/inspect/queue';

/** A frame around a spot, within the part of a picture that is shown. */
export function SpotFrame({ box, within }: { box: Rect; within: Rect }) {
  const share = (value: number, of: number) => `${(100 * value) / of}%`;
  const left = Math.max(0, box[0] - within[0]);
  const top = Math.max(0, box[1] - within[1]);
  return (
    <span
      aria-hidden="true"
      className="absolute border-2 border-mark shadow-[0_0_0_1px_var(--color-paper)]"
      style={{
        left: share(left, within[2]),
        top: share(top, within[3]),
        width: share(Math.min(box[0] + box[2] - within[0], within[2]) - left, within[2]),
        height: share(Math.min(box[1] + box[3] - within[1], within[3]) - top, within[3]),
      }}
    />
  );
}
