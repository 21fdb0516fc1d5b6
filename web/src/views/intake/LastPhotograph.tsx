import type { PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { stateWords } from '@/ui/Mark';
import { Spotted } from '@/ui/Spot';

export type LastPhotographProps = {
  pages: readonly PageRow[];
  taken: number;
  onRetake: (page: PageRow) => void;
};

/** The photograph that came last, and whether it will do: judged on what was stored, while the page is at hand. */
export function LastPhotograph({ pages, taken, onRetake }: LastPhotographProps) {
  const last = pages.reduce<PageRow | undefined>((best, page) => (best && best.id > page.id ? best : page), undefined);
  return (
    <section
      aria-label="Taken last"
      className="flex max-h-60 shrink-0 flex-col gap-2 overflow-y-auto p-4 pb-0 sm:max-h-none sm:w-60 sm:pr-0 sm:pb-4"
    >
      {last ? (
        <>
          <p className="font-mono text-small">
            {last.number} {taken ? 'came last' : 'last page of the stack'}
          </p>
          {last.original ? (
            <Spotted page={last} faults={last.faults ?? []} />
          ) : (
            <p className="flex h-32 w-full items-center justify-center border border-surround-ink text-small">
              {stateWords(last)}
            </p>
          )}
          {last.faults && (
            <div className="flex flex-col items-start gap-2 bg-panel p-2.5 text-small text-ink">
              {last.faults.length === 0 ? (
                <p>Good: sharp, evenly lit, nothing cut off.</p>
              ) : (
                <>
                  <ul className="flex flex-col gap-1.5">
                    {last.faults.map(({ check, message }) => (
                      <li key={check} className="border-l-3 border-ink pl-2">
                        {message}
                      </li>
                    ))}
                  </ul>
                  <Button size="small" onClick={() => onRetake(last)}>
                    Take page {last.number} again
                  </Button>
                </>
              )}
            </div>
          )}
        </>
      ) : (
        <p className="hidden text-small sm:block">Pages that are taken are seen here, one after the other.</p>
      )}
    </section>
  );
}
