import { useQuery } from '@tanstack/react-query';
import { stationQualityQuery } from '@/api/quality';
import type { StationQuality } from '@/api/types';
import { useView } from '@/hooks/useView';
import { Button } from '@/ui/Button';
import { Empty, Failed, Loading } from '@/ui/States';
import { Title, TopBar } from '@/ui/TopBar';
import { counted, figure, when } from '@/words/figures';
import { ControlChart } from './ControlChart';

export type StationQualityProps = { user: string; stationId: number };

/** How well a station captures, over time: each figure a chart with what is usual for it and what is borne. */
export function StationQualityView({ user, stationId }: StationQualityProps) {
  const { data, error, refetch } = useQuery(stationQualityQuery(stationId));
  const main = useView<HTMLElement>(data ? `Quality of ${data.name}` : undefined);
  return (
    <div className="flex min-h-full flex-col">
      <TopBar user={user} title={<Title>{data ? `Quality of ${data.name}` : 'Quality'}</Title>} />
      <main ref={main} id="main" tabIndex={-1} className="flex flex-1 flex-col outline-none">
        {error && !data ? (
          <Failed message={error.message} retry={() => refetch()} />
        ) : !data ? (
          <Loading label="Loading the charts" className="m-6 h-10" />
        ) : data.charts.length === 0 ? (
          <Empty title="Nothing is measured yet">
            <p>
              Print the quality target at its true size, capture it at this station as pages are captured, and choose
              “Measure the station by it” beside the page. From five times on there are limits.
            </p>
            <Target main />
          </Empty>
        ) : (
          <Charts quality={data} />
        )}
      </main>
    </div>
  );
}

function Charts({ quality }: { quality: StationQuality }) {
  return (
    <div className="flex max-w-[86rem] flex-col gap-7 px-7 py-5">
      {quality.charts.map(({ kind, checks, figures }) => {
        const last = checks[checks.length - 1];
        return (
          <section key={kind} aria-label={kind} className="flex flex-col gap-4">
            <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
              <h2 className="text-title font-semibold">{kind.charAt(0).toUpperCase() + kind.slice(1)}</h2>
              {last && (
                <p className="text-soft">
                  Measured {counted(checks.length, 'time')}, last {when(last.at)} by {last.by || 'somebody'}:{' '}
                  <span className="font-mono">
                    {figure(last.quality.ppi[0] ?? 0, 1)} × {figure(last.quality.ppi[1] ?? 0, 1, 'ppi')}
                  </span>
                  , MTF 50{' '}
                  <span className="font-mono">
                    {figure(last.quality.mtf50[0] ?? 0, 2)} × {figure(last.quality.mtf50[1] ?? 0, 2, '/mm')}
                  </span>
                  , MTF 10{' '}
                  <span className="font-mono">
                    {figure(last.quality.mtf10[0] ?? 0, 2)} × {figure(last.quality.mtf10[1] ?? 0, 2, '/mm')}
                  </span>
                </p>
              )}
            </header>
            <div className="grid gap-x-8 gap-y-5 md:grid-cols-2 xl:grid-cols-3">
              {figures.map((one) => (
                <ControlChart key={one.name} figure={one} />
              ))}
            </div>
            {last && !last.quality.measured && (
              <p className="text-soft">
                Nobody has measured the printed target: its colours are taken for those that were sent to the printer,
                so that tone, white balance and colour tell how they change, and not how true they are.
              </p>
            )}
          </section>
        );
      })}
      <footer className="flex flex-wrap items-center gap-4 border-t border-hairline pt-4 text-soft">
        <span className="min-w-0 flex-1">
          Broken line: what is borne, {quality.guideline}. Band: three standard deviations about the middle of the first
          values.
        </span>
        <Target />
      </footer>
    </div>
  );
}

function Target({ main = false }: { main?: boolean }) {
  return (
    <Button asChild kind={main ? 'main' : 'plain'}>
      <a href="/api/v1/quality-target" download>
        Quality target to print
      </a>
    </Button>
  );
}
