import type { PageHit, ThingFound } from '@/api/types';
import { LinePicture } from '@/ui/LinePicture';
import { counted } from '@/words/figures';
import { statementWords, THING_WORDS } from '@/words/search';

/** A stack or a document, with what of that which is said of it answers, and where its papers are. */
export function ThingRow({ thing }: { thing: ThingFound }) {
  const { kind, title, stack_name, answers, place } = thing;
  const first = answers.filter(({ name }, at) => answers.findIndex((one) => one.name === name) === at);
  const said = [...first, ...place].map(statementWords);
  return (
    <div className="grid grid-cols-[8rem_minmax(0,1fr)] items-baseline gap-x-4">
      <span className="text-small text-soft">{THING_WORDS[kind]}</span>
      <span className="flex min-w-0 flex-col">
        <span className="truncate font-semibold">{title}</span>
        {(said.length > 0 || kind !== 'stack') && (
          <span className="truncate text-small text-soft">
            {[...(kind === 'stack' ? [] : [`in ${stack_name}`]), ...said].join(' · ')}
          </span>
        )}
      </span>
    </div>
  );
}

/** A page: the picture of the line that answers best, its words framed on it; beside it where the page is. */
export function PageRow({ page }: { page: PageHit }) {
  const { number, stack_name, document, place, source, marked, line } = page;
  return (
    <div className="grid gap-x-6 gap-y-1.5 lg:grid-cols-[minmax(0,46rem)_minmax(0,1fr)]">
      {line ? (
        <LinePicture
          clean={page.clean}
          size={page.size_px}
          line={line.box}
          marks={line.marks}
          text={line.words.map((word) => word.text).join(' ')}
        />
      ) : (
        <span className="text-soft">
          {page.readable ? 'The name of its file holds that.' : 'Its text is being made again.'}
        </span>
      )}
      <span className="flex min-w-0 flex-col text-small text-soft">
        <span className="flex gap-3 text-ink">
          <span className="min-w-0 truncate">
            <span className="font-mono">page {number}</span> of {stack_name}
          </span>
          {marked > 1 && <span className="ml-auto shrink-0 font-mono text-soft">{counted(marked, 'word')}</span>}
        </span>
        <span className="truncate">
          {document ? `page ${place} of ${document === stack_name ? 'its document' : document} · ${source}` : source}
        </span>
      </span>
    </div>
  );
}
