import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useLocation } from 'wouter';
import { findingsQuery } from '@/api/inspection';
import type { Doing, PageRow, Pages } from '@/api/types';
import { useRetry } from '@/api/work';
import type { Hands } from '@/engine/changes/hands';
import { byTitle, type Decided, keyOf, placeIn, undecided, type Waiting, waiting } from '@/engine/inspect/queue';
import { inspectCommands } from '@/engine/keys/inspect';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Empty, Failed, Loading } from '@/ui/States';
import { count } from '@/words/figures';
import { REMEDIES } from '@/words/inspect';
import { Evidence } from './Evidence';
import { InspectPlaces } from './InspectPlaces';
import { Then } from './Then';

export type InspectViewProps = {
  stackId: number;
  data: Pages | undefined;
  /** The page that the address names: what is found on it comes first in hand. */
  named: number | undefined;
  hands: Hands;
  may: { work: boolean; inspect: boolean };
  /** Another page is looked at. */
  onPage: (id: number) => void;
};

/** What is worth a look, one thing after the other, each with its evidence and decided by a key. */
export function InspectView({ stackId, data, named, hands, may, onPage }: InspectViewProps) {
  const [, go] = useLocation();
  const retry = useRetry();
  const base = `/stacks/${stackId}`;
  const {
    data: found,
    error,
    refetch,
  } = useQuery({
    ...findingsQuery(stackId, data?.change ?? 0),
    enabled: data !== undefined,
  });
  // What was decided just now is out of the queue before the server has said so.
  const [decided, setDecided] = useState<Decided>(new Map());
  const [hand, setHand] = useState<{ key: string; at: number }>();
  const queue = useMemo(
    () => (found ? undecided(waiting(found.findings, data?.pages ?? []), decided, found.change) : []),
    [found, data?.pages, decided],
  );
  const at = placeIn(queue, hand, named);
  const current: Waiting | undefined = queue[at];
  const key = current && keyOf(current.finding);
  const page = current?.page;

  // The fore-edge and the address show which page is looked at: from the bench one comes back to it.
  const seen = page?.id;
  const mark = useRef(onPage);
  useEffect(() => {
    mark.current = onPage;
  });
  useEffect(() => {
    if (seen !== undefined) mark.current(seen);
  }, [seen]);
  useEffect(() => {
    if (key !== undefined) setHand({ key, at });
  }, [key, at]);

  const step = (by: number) => {
    const next = queue[Math.max(0, Math.min(queue.length - 1, at + by))];
    if (next) setHand({ key: keyOf(next.finding), at: queue.indexOf(next) });
  };
  const decide = (doing: Doing, these: readonly Waiting[]) => {
    const keys = these.map(({ finding }) => keyOf(finding));
    const outUntil = (count: number) =>
      setDecided((before) => new Map([...before, ...keys.map((key) => [key, count] as const)]));
    outUntil(Number.POSITIVE_INFINITY);
    hands.do(doing).then(outUntil, () => outUntil(0));
  };
  const onPageToo = queue.filter((one) => page !== undefined && one.page?.id === page.id);
  const fine = () => {
    if (!current) return;
    const { page: on, kind, judged } = current.finding;
    decide({ do: 'judge', findings: [{ page: on, kind, judged }], fine: true }, [current]);
  };
  // A page that failed is in no output, however one finds it.
  const failed = current?.finding.kind === 'failed';
  const judged = may.inspect && !failed;
  const remedy = current ? REMEDIES[current.finding.remedy] : '';
  const putRight = () => {
    if (!page || !current) return;
    const { remedy: how, tool } = current.finding;
    if (how === 'again') retry.mutate({ page: page.id });
    else if (how === 'text') go(`${base}/text/${page.id}`);
    else if (how === 'order') go(base);
    else go(`${base}/bench/${page.id}/${tool || 'move'}/inspect`);
  };
  const holdAside = () => {
    if (!page || !current) return;
    const held = page.aside !== '';
    const double = current.finding.kind === 'same image' || current.finding.kind === 'recaptured';
    const reason = double ? 'duplicate' : 'by hand';
    decide({ do: 'aside', pages: [page.id], aside: !held, reason }, onPageToo);
  };
  const remove = () => {
    if (page) decide({ do: 'delete', pages: [page.id] }, onPageToo);
  };
  const recapture = () => {
    if (page && current) decide({ do: 'rescan', pages: [page.id], why: current.finding.title }, onPageToo);
  };
  useCommands(
    inspectCommands({
      some: current !== undefined,
      page: page !== undefined,
      aside: page !== undefined && page.aside !== '',
      failed,
      may: { work: may.work, inspect: may.inspect, judge: judged },
      remedy,
      fine,
      putRight,
      holdAside,
      recapture,
      remove,
      step,
      turn: (way) => void hands.turn(way),
      sample: () => go(`${base}/sample`),
      leave: () => go(base),
    }),
  );

  if (error && !found) return <Failed message={error.message} retry={() => refetch()} />;
  if (!found || !data) return <Loading label="Loading the findings" className="m-6 h-10 flex-1" />;
  if (!current) return <Done stackId={stackId} pages={data.pages} />;
  return (
    <main className="flex min-h-0 min-w-0 flex-1 flex-col overflow-y-auto">
      <InspectPlaces stackId={stackId} at="findings" findings={queue.length} />
      <header className="flex flex-wrap items-baseline gap-x-6 gap-y-1 px-7 pt-4 pb-3.5">
        <h2 className="text-display font-semibold">{current.finding.title}</h2>
        <p className="min-w-0 flex-1 text-soft" data-testid="finding">
          {page && (
            <>
              page <span className="font-mono">{page.number}</span> ·{' '}
            </>
          )}
          {current.finding.message}
        </p>
        <span className="font-mono" data-testid="place">
          {count(at + 1)} of {count(queue.length)}
        </span>
      </header>
      <Evidence finding={current.finding} page={page} pages={data.pages} />
      <div className="flex flex-wrap gap-3 px-7 pt-4">
        <Button kind="main" shortcut="f" disabled={!judged} onClick={fine}>
          Fine as it is
        </Button>
        {page && (
          <>
            {remedy && (
              <Button shortcut="e" disabled={!may.work} onClick={putRight}>
                {remedy}
              </Button>
            )}
            {failed ? (
              <Button shortcut="Delete" disabled={!may.work} onClick={remove}>
                Delete
              </Button>
            ) : (
              <Button shortcut="a" disabled={!may.work} onClick={holdAside}>
                {page.aside ? 'Back into the stack' : 'Hold aside'}
              </Button>
            )}
            <Button shortcut="g" disabled={!may.inspect} onClick={recapture}>
              Recapture
            </Button>
          </>
        )}
        <span className="flex-1" />
        <Button kind="quiet" shortcut="ArrowLeft" disabled={at === 0} onClick={() => step(-1)}>
          Back
        </Button>
        <Button kind="quiet" shortcut="ArrowRight" disabled={at >= queue.length - 1} onClick={() => step(1)}>
          Next
        </Button>
      </div>
      <Then queue={queue} at={at} kinds={byTitle(queue)} onStep={step} />
    </main>
  );
}

/** Nothing waits: what was looked at, and what is still on its way. */
function Done({ stackId, pages }: { stackId: number; pages: readonly PageRow[] }) {
  const underway = pages.filter(({ state }) => !['ready', 'aside', 'failed'].includes(state)).length;
  const marked = pages.filter(({ rescan }) => rescan).length;
  return (
    <main className="flex flex-1 flex-col">
      <InspectPlaces stackId={stackId} at="findings" findings={0} />
      <Empty title={pages.length === 0 ? 'There are no pages yet' : 'Nothing waits for a look'}>
        {underway > 0 && <p>{count(underway)} pages are still being worked on; what is found on them comes here.</p>}
        {marked > 0 && (
          <p>
            {marked === 1 ? '1 page is' : `${count(marked)} pages are`} to recapture.{' '}
            <Link href={`/stacks/${stackId}/rescan-slip`} className="underline">
              Rescan slip to print
            </Link>
          </p>
        )}
        {pages.length > 0 && underway === 0 && (
          <Button asChild kind="main" shortcut="s">
            <Link href={`/stacks/${stackId}/sample`}>Sample and signature</Link>
          </Button>
        )}
      </Empty>
    </main>
  );
}
