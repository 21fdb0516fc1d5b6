import type { PageRow } from '@/api/types';
import type { Size } from '@/engine/geometry/turned';
import { type LineInHand as Line, STRIP_SHAPE, shadeOf, stripAddress, stripOf } from '@/engine/reading/words';

/** The line in hand: its picture, and right under it what was read, with the word in question set off. */
export function LineInHand({ page, line, shown }: { page: PageRow; line: Line; shown: string }) {
  const size = (page.clean_px ?? [1, 1]) as Size;
  const word = line.words[line.at];
  if (!word) return null;
  const [left, top, width, height] = stripOf(line, size);
  const share = (value: number, of: number) => `${(100 * value) / of}%`;
  return (
    <div className="flex flex-col gap-3">
      <div
        className="flex justify-center border border-hairline bg-paper"
        style={{ aspectRatio: `${STRIP_SHAPE[0]} / ${STRIP_SHAPE[1]}` }}
      >
        <div className="relative h-full max-w-full" style={{ aspectRatio: `${width} / ${height}` }}>
          {page.clean && (
            <img
              key={word.box.join()}
              src={stripAddress(page.clean, line, size)}
              alt="The line on the page"
              className="absolute inset-0 size-full"
              draggable={false}
            />
          )}
          <span
            className="absolute border-2 border-mark"
            style={{
              left: share(word.box[0] - left - 3, width),
              top: share(word.box[1] - top - 3, height),
              width: share(word.box[2] - word.box[0] + 6, width),
              height: share(word.box[3] - word.box[1] + 6, height),
            }}
          />
        </div>
      </div>
      <p className="max-h-24 overflow-y-auto text-title leading-8" data-testid="line">
        {line.words.map((one, at) => (
          <span key={one.box.join()}>
            {at > 0 && ' '}
            <span className={at === line.at ? IN_HAND : SHADES[shadeOf(one)]}>
              {at === line.at ? shown : one.mark === 'unreadable' ? '[illegible]' : one.text}
            </span>
          </span>
        ))}
      </p>
    </div>
  );
}

const IN_HAND = 'border-b-4 border-double border-accent font-semibold';
const SHADES = {
  none: '',
  some: 'underline decoration-control decoration-dotted decoration-2 underline-offset-4',
  much: 'underline decoration-accent decoration-2 underline-offset-4',
};
