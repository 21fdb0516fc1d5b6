import type { Box } from '@/api/types';
import { cropOf } from '@/engine/search/crop';
import { SpotFrame } from './SpotFrame';

export type LinePictureProps = {
  /** Key and size of the clean page; its text alone is shown where there is none now. */
  clean: string | null;
  size: readonly [number, number] | null;
  line: Box;
  /** What is framed in it. */
  marks: readonly Box[];
  text: string;
  high?: number;
};

/** A line as it stands on its page, cut from it, with some of its words framed. */
export function LinePicture({ clean, size, line, marks, text, high: shown = HIGH }: LinePictureProps) {
  if (!clean || !size) return <span>{text}</span>;
  const crop = cropOf(line, marks, size);
  const [x, y, wide, high] = crop;
  return (
    <span
      className="relative block max-w-full overflow-hidden rounded-sm bg-paper"
      style={{ width: (shown * wide) / high, aspectRatio: `${wide} / ${high}` }}
    >
      <img
        src={`/iiif/render/${clean}/${x},${y},${wide},${high}/!1460,104/0/default.webp`}
        alt={text}
        className="size-full"
      />
      {marks.map(([left, top, right, bottom]) => (
        <SpotFrame key={`${left} ${top}`} box={[left, top, right - left, bottom - top]} within={crop} />
      ))}
    </span>
  );
}

/** High enough to be read, small enough that several are seen at once. */
const HIGH = 52;
