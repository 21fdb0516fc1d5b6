import type { Pages } from '@/api/types';
import { causesOf } from '@/engine/trouble';
import { counted, numbers } from '@/words/figures';

/** What is to be known before binding: what is left out, and what is bound as it is. */
export function Said({ data }: { data: Pages }) {
  const { counts, pages } = data;
  const failed = pages.filter((page) => page.state === 'failed');
  const again = pages.filter((page) => page.rescan).length;
  const unread = pages.filter(({ state, words }) => state === 'ready' && words === null).length;
  const are = (of: number) => (of === 1 ? '1 page is' : `${of} pages are`);
  return (
    <div className="flex flex-col gap-2 text-small empty:hidden">
      {counts.aside > 0 && <p className="text-soft">{counted(counts.aside, 'page')} aside, left out.</p>}
      {again > 0 && (
        <p role="status" className="border-l-3 border-ink pl-3">
          {are(again)} marked for recapture, and bound as {again === 1 ? 'it is' : 'they are'}.
        </p>
      )}
      {unread > 0 && (
        <p role="status" className="border-l-3 border-ink pl-3">
          {counted(unread, 'page')} of these {unread === 1 ? 'has' : 'have'} not been read, and cannot be searched in
          the document: reading is put off.
        </p>
      )}
      {counts.inspect > 0 && (
        <p role="status" className="border-l-3 border-hairline pl-3 text-soft">
          {counted(counts.inspect, 'finding')} {counts.inspect === 1 ? 'waits' : 'wait'} in Inspect.
        </p>
      )}
      {failed.length > 0 && (
        <ul aria-label="Failed pages" className="flex max-h-32 flex-col gap-1 overflow-y-auto">
          {causesOf(failed).map(({ message, pages: of }) => (
            <li key={message} className="border-l-3 border-ink pl-3">
              {of.length === 1
                ? `Page ${of[0]?.number}, ${of[0]?.source}`
                : `${counted(of.length, 'page')} (${numbers(of)})`}
              , left out: {message}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
