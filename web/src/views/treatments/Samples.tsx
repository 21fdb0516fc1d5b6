import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Correction } from '@/api/bench';
import { api, told } from '@/api/client';
import { stacksQuery } from '@/api/shelf';
import type { TreatmentSettings } from '@/api/treatments';
import type { PageRow } from '@/api/types';
import { ALL } from '@/engine/shelf/asked';
import { useKept } from '@/hooks/useKept';
import { usePreview } from '@/hooks/usePreview';
import { PageChoice } from '@/ui/PageChoice';
import { Select } from '@/ui/Select';
import { Loading } from '@/ui/States';
import { size } from '@/words/figures';

/** Nothing that was set on the page by hand: what is shown is the treatment's. */
const NOTHING: Correction = {
  turn: null,
  skew: null,
  quad: null,
  crop: null,
  clear: null,
  plain: null,
  colour: null,
  even_tone: null,
  reduce_show_through: null,
  adjust: null,
};
const PLACES = [0, 1, 2] as const;

/** The stack whose pages are looked at, and those of its pages that can be shown. */
export function useSamples() {
  const { data: shelf } = useQuery(stacksQuery(ALL, 0));
  const stacks = shelf?.stacks ?? [];
  const [{ stack: kept }, setKept] = useKept<{ stack: number | null }>('samples', { stack: null });
  const filled = stacks.filter(({ counts }) => counts.measured > 0);
  const stack = filled.find(({ id }) => id === kept) ?? filled[0];
  const { data } = useQuery({
    queryKey: ['samples', stack?.id, stack?.change],
    queryFn: ({ signal }) =>
      told(
        api.GET('/api/v1/stacks/{stack_id}/pages', {
          params: { path: { stack_id: stack?.id ?? 0 }, query: { since: 0 } },
          signal,
        }),
      ),
    enabled: stack !== undefined,
    placeholderData: (before) => before,
  });
  const byId = new Map(data?.pages.map((row) => [row.id, row]));
  const pages = data?.order?.flatMap((id, index) => {
    const row = byId.get(id);
    return row?.original ? [{ ...row, number: index + 1 }] : [];
  });
  return { filled, stack, choose: (id: number) => setKept({ stack: id }), pages };
}

/** Three pages of one's choice as the treatment would have them, made anew with every change. */
export function Samples({ settings }: { settings: TreatmentSettings }) {
  const { filled, stack, choose, pages } = useSamples();
  if (!stack) return <p className="p-5">Pages of a stack are shown here as soon as one is on the shelf.</p>;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex shrink-0 items-center border-b border-hairline bg-panel px-4 py-2">
        <Select
          inline
          label="Pages of"
          value={String(stack.id)}
          options={filled.map(({ id, name }) => ({ value: String(id), label: name }))}
          onChange={(id) => choose(Number(id))}
        />
      </div>
      <div className="grid min-h-0 flex-1 gap-4 p-4 sm:grid-cols-3">
        {pages ? (
          PLACES.map((place) => <Sample key={`${stack.id} ${place}`} place={place} pages={pages} settings={settings} />)
        ) : (
          <Loading label="Loading pages" className="col-span-3 opacity-40" />
        )}
      </div>
    </div>
  );
}

type SampleProps = { place: (typeof PLACES)[number]; pages: readonly PageRow[]; settings: TreatmentSettings };

function Sample({ place, pages, settings }: SampleProps) {
  // At first the beginning, the middle and the end.
  const [chosen, setChosen] = useState<number>();
  const page = pages.find(({ id }) => id === chosen) ?? pages[Math.floor((place * (pages.length - 1)) / 2)];
  const preview = usePreview(
    page && { page: page.id, revision: String(page.change), correction: NOTHING, longest: 1000, treatment: settings },
  );
  if (!page) return null;
  return (
    <figure className="flex min-h-0 min-w-0 flex-col gap-2">
      <div className="relative min-h-0 flex-1">
        {preview.data && (
          <img
            src={preview.data.picture}
            alt={`Page ${page.number} by these settings`}
            className="absolute inset-0 size-full object-contain"
          />
        )}
        {!preview.data && !preview.error && (
          <p className="absolute inset-0 m-auto size-fit bg-panel px-2 text-ink">Being treated …</p>
        )}
        {preview.error && <p className="absolute inset-x-0 top-0 bg-panel p-2 text-ink">{preview.error}</p>}
      </div>
      <figcaption className="flex flex-col gap-1 bg-panel p-2 text-ink">
        <PageChoice label="Another page" pages={pages} chosen={page} onChoose={setChosen} />
        <span className="font-mono text-small text-soft">
          {size(preview.data?.plan.size_px)} {preview.data?.plan.colour} {preview.data?.plan.aside ?? ''}
          {preview.data && preview.pending && <span className="late"> · being treated …</span>}
        </span>
      </figcaption>
    </figure>
  );
}
