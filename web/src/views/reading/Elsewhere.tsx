import type { Box, Elsewhere as Found, PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { Key } from '@/ui/Key';
import { count, counted } from '@/words/figures';

export type ElsewhereProps = {
  found: Found;
  byId: ReadonlyMap<number, PageRow>;
  onAll: () => void;
  onOne: (page: number, box: Box) => void;
};

/** So many are shown; all of them are put right. */
const SHOWN = 8;

/** The same elsewhere: words that were read alike and look alike, with their pictures. */
export function Elsewhere({ found, byId, onAll, onOne }: ElsewhereProps) {
  const { words, more } = found;
  if (!words.length) return null;
  return (
    <section aria-labelledby="elsewhere" className="flex flex-col gap-3 border-t border-hairline pt-4">
      <h3 id="elsewhere" className="font-semibold">
        Looks the same, read the same, {counted(words.length, 'more time', 'more times')} in this stack
      </h3>
      <ul className="flex flex-wrap items-center gap-2">
        {words.slice(0, SHOWN).map(({ page, box, text }) => (
          <li key={`${page} ${box.join()}`}>
            <button
              type="button"
              onClick={() => onOne(page, box)}
              aria-label={`“${text}” on page ${byId.get(page)?.number ?? '?'}`}
              className="flex h-11 items-center border border-hairline bg-paper px-1 hover:border-accent"
            >
              <WordPicture page={byId.get(page)} box={box} />
            </button>
          </li>
        ))}
        {words.length > SHOWN && <li className="font-mono text-small">+{count(words.length - SHOWN)}</li>}
      </ul>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Button onClick={onAll} aria-keyshortcuts="Shift+Enter">
          Put all {count(words.length + 1)} right <Key of="Shift+Enter" shown="⇧↵" />
        </Button>
        {more > 0 && (
          <span className="text-small text-soft">
            {counted(more, 'more page has', 'more pages have')} the word and {more === 1 ? 'was' : 'were'} not looked
            through.
          </span>
        )}
      </div>
    </section>
  );
}

function WordPicture({ page, box }: { page: PageRow | undefined; box: Box }) {
  if (!page?.clean || !page.clean_px) return null;
  const [left, top, right, bottom] = box;
  const more = Math.round((bottom - top) * 0.2);
  const [x, y] = [Math.max(0, left - more), Math.max(0, top - more)];
  const width = Math.min(page.clean_px[0], right + more) - x;
  const height = Math.min(page.clean_px[1], bottom + more) - y;
  return (
    <img
      src={`/iiif/render/${page.clean}/${x},${y},${width},${height}/!300,64/0/default.jpg`}
      alt=""
      draggable={false}
      loading="lazy"
      style={{ aspectRatio: `${width} / ${height}` }}
      className="h-8 max-w-40 object-contain"
    />
  );
}
