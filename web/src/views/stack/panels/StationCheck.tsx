import { useId } from 'react';
import { useMay } from '@/api/people';
import { useStationCheck } from '@/api/quality';
import { Button } from '@/ui/Button';
import { Fold } from '@/ui/Fold';

/** Measuring the station by a page that shows the quality target. */
export function StationCheck({ page, station }: { page: number; station: string }) {
  const may = useMay('inspect');
  const check = useStationCheck();
  const file = useId();
  const { isPending, error, data, variables } = check;
  if (!may) return null;
  const done = data && variables?.page === page;
  return (
    <Fold title="Quality of the station">
      <div className="mt-1 flex flex-col items-start gap-2.5 text-small">
        <p className="text-soft">Where this page shows the quality target, it tells how well {station} captures.</p>
        <Button size="small" disabled={isPending} onClick={() => check.mutate({ page, patches: '' })}>
          {isPending ? 'Measuring' : 'Measure the station by it'}
        </Button>
        <label htmlFor={file} className="text-soft">
          or with the file of its patches (CGATS text with L*a*b*)
        </label>
        <input
          id={file}
          type="file"
          disabled={isPending}
          className="max-w-full"
          onChange={async ({ target }) => {
            const [chosen] = target.files ?? [];
            if (chosen) check.mutate({ page, patches: await chosen.text() });
            target.value = '';
          }}
        />
        {error && variables?.page === page && <p role="alert">{error.message}</p>}
        {done && (
          <a href={`/stations/${data.station}`} className="flex min-h-6 items-center underline">
            Charts of {data.name}
          </a>
        )}
      </div>
    </Fold>
  );
}
