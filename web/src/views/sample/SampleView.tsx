import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useLocation } from 'wouter';
import { signingQuery, useSigning } from '@/api/signing';
import type { Pages, SampleAsked } from '@/api/types';
import { planCommands } from '@/engine/keys/sample';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Failed, Loading } from '@/ui/States';
import { InspectPlaces } from '@/views/inspect/InspectPlaces';
import { Going } from './Going';
import { Past } from './Past';
import { PlanAhead } from './PlanAhead';
import { Signed } from './Signed';

export type SampleViewProps = {
  stackId: number;
  data: Pages | undefined;
  may: boolean;
  /** Another page is looked at. */
  onPage: (id: number) => void;
};

/** A sample of the stack: planned, drawn, gone through and decided; and who signs for it. */
export function SampleView({ stackId, data, may, onPage }: SampleViewProps) {
  const [, go] = useLocation();
  const {
    data: signing,
    error,
    refetch,
  } = useQuery({
    ...signingQuery(stackId, data?.change ?? 0),
    enabled: data !== undefined,
  });
  const [asked, setAsked] = useState<SampleAsked>({ first: null, level: 'II', aql: '2.5' });
  const [again, setAgain] = useState<number>();
  const [more, setMore] = useState(false);
  const { draw, look, forget, decide, sign, reopen } = useSigning(stackId);
  const leave = () => go(`/stacks/${stackId}/inspect`);
  const open = signing?.samples.find(({ state, id }) => state === 'open' && id !== again);
  const drawNow = () => draw.mutate(asked);
  const busy = sign.isPending || reopen.isPending;
  const signable = signing?.signable === true && !busy;
  useCommands(
    open
      ? []
      : planCommands({
          may,
          draw: signing && !signing.signed && !signable && !draw.isPending ? drawNow : undefined,
          sign: signable ? () => sign.mutate() : undefined,
          leave,
        }),
  );
  if (error && !signing) return <Failed message={error.message} retry={() => refetch()} />;
  if (!signing || !data) return <Loading label="Loading the samples" className="m-6 h-10 flex-1" />;
  return (
    <main className="flex min-h-0 min-w-0 flex-1 flex-col">
      <InspectPlaces stackId={stackId} at="sample" findings={data.counts.inspect} />
      {open ? (
        <Going
          key={open.id}
          sample={open}
          pages={data.pages}
          may={may}
          deciding={decide.isPending}
          onSaid={(said) => look.mutate({ sample: open.id, said })}
          onForget={(page) => forget.mutate({ sample: open.id, page })}
          onDecide={(then) => decide.mutate({ sample: open.id, then })}
          onAgain={() => setAgain(open.id)}
          onPage={onPage}
          onLeave={leave}
        />
      ) : (
        <div className="min-h-0 flex-1 overflow-y-auto">
          {(signable || signing.signed) && (
            <Signed
              signing={signing}
              may={may}
              busy={busy}
              onSign={() => sign.mutate()}
              onReopen={(why) => reopen.mutate(why)}
            />
          )}
          {signable && !more && (
            <div className="px-7 pb-5">
              <Button kind="quiet" onClick={() => setMore(true)}>
                Draw another sample
              </Button>
            </div>
          )}
          {!signing.signed && (!signable || more) && (
            <PlanAhead
              stackId={stackId}
              data={data}
              asked={asked}
              onAsked={setAsked}
              may={may}
              main={!signable}
              drawing={draw.isPending}
              onDraw={drawNow}
            />
          )}
          {!signable && !signing.signed && (
            <Signed signing={signing} may={may} busy={busy} onSign={() => sign.mutate()} onReopen={() => undefined} />
          )}
          <Past signing={signing} />
        </div>
      )}
    </main>
  );
}
