import type { PageRow, Sample } from '@/api/types';
import { saidOf } from '@/engine/inspect/sample';
import { count } from '@/words/figures';
import { CLASSES } from '@/words/sample';

export type DrawnProps = {
  sample: Sample;
  byId: ReadonlyMap<number, PageRow>;
  current: number | undefined;
  onPage: (id: number) => void;
};

/** The pages that were drawn, with what was said of each. */
export function Drawn({ sample, byId, current, onPage }: DrawnProps) {
  return (
    <ul aria-label="Pages of the sample" className="grid grid-cols-[repeat(auto-fill,minmax(4.25rem,1fr))] gap-1">
      {sample.pages.map((id) => {
        const page = byId.get(id);
        const said = saidOf(sample, id);
        const words = said === undefined ? 'not looked at' : CLASSES[said].label;
        return (
          <li key={id}>
            <button
              type="button"
              disabled={!page}
              aria-current={id === current}
              aria-label={page ? `Page ${page.number}, ${words}` : 'A page that is no longer in the stack'}
              onClick={() => onPage(id)}
              className={`flex w-full items-center justify-between gap-1 rounded-sm border px-1.5 py-0.5 font-mono text-small ${id === current ? 'border-accent bg-accent-pale' : 'border-hairline hover:bg-hover'} ${said === 'major' || said === 'critical' ? 'font-semibold' : ''}`}
            >
              {page ? count(page.number) : '–'}
              <span aria-hidden="true">{said === undefined ? '·' : CLASSES[said].sign}</span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
