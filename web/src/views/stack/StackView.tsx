import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link } from 'wouter';
import { useMay } from '@/api/people';
import { stackQuery, useRename } from '@/api/queries';
import { useCloseStacks } from '@/api/shelf';
import { useViewing } from '@/api/work';
import { type Place, placeIn } from '@/engine/keys/stack';
import { troubled } from '@/engine/trouble';
import { useBusy, useStackPages } from '@/hooks/useStackPages';
import { useView } from '@/hooks/useView';
import { Guarded } from '@/ui/Guarded';
import { Rename } from '@/ui/Rename';
import { Failed } from '@/ui/States';
import { TopBar } from '@/ui/TopBar';
import { when } from '@/words/figures';
import { LeftUnderCover } from './CoverSaid';
import { Line } from './Line';
import { Said } from './Said';
import { Steps } from './Steps';
import { TroubleBar } from './TroubleBar';
import { Work } from './Work';

export type StackViewProps = { user: string; stackId: number; rest: string };

/** Around every view of a stack: where one is and the way of the work on top, the fore-edge on the left. */
export function StackView({ user, stackId, rest }: StackViewProps) {
  const { data: stack, error: missing } = useQuery(stackQuery(stackId));
  const { data, error, refetch, lost, hands } = useStackPages(stackId);
  const { held } = useBusy(hands);
  const main = useView<HTMLDivElement>(stack?.name);
  const rename = useRename(stackId);
  const closing = useCloseStacks();
  const may = useMay('work');
  const place = placeIn(rest);
  const named = NAMING.has(place) && rest.includes('/') ? Number(rest.split('/')[1]) : undefined;
  const trouble = useMemo(() => troubled(data?.pages ?? []), [data?.pages]);
  useViewing(stackId, named ?? null);
  const problem = missing ?? (data ? null : error);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar
        user={user}
        title={<Rename name={stack?.name ?? ''} may={may} onRename={(name) => rename.mutate(name)} />}
      >
        <Steps
          counts={data?.counts}
          expected={stack?.waits.expected ?? 0}
          at={AS[place] ?? OWN_STEP.find((step) => step === place) ?? 'pages'}
          base={`/stacks/${stackId}`}
        />
      </TopBar>
      {lost !== undefined && <Line at={lost} />}
      {held && <Said>{held} What you did is kept, and sent again.</Said>}
      {stack?.signed && place !== 'sample' && (
        <Said>
          {stack.signed.by} signed for this stack on {when(stack.signed.at)}: it is closed to changes.{' '}
          <Link href={`/stacks/${stackId}/sample`} className="underline">
            Reopen it with a reason
          </Link>
        </Said>
      )}
      {stack?.closed && !stack.signed && (
        <Said>
          {stack.closed.by} closed this stack on {when(stack.closed.at)}: it takes no changes.{' '}
          {may && (
            <button
              type="button"
              className="underline"
              disabled={closing.isPending}
              onClick={() => closing.mutate({ stacks: [stackId], closed: false })}
            >
              Reopen it
            </button>
          )}
        </Said>
      )}
      {data && <LeftUnderCover stackId={stackId} pages={data.pages} />}
      {data && !data.engine && <Said>Processing is paused: the engine is not running.</Said>}
      {trouble && !problem && <TroubleBar stackId={stackId} trouble={trouble} />}
      {problem ? (
        <main ref={main} id="main" tabIndex={-1} className="flex flex-1 outline-none">
          <Failed message={problem.message} retry={() => refetch()} />
        </main>
      ) : (
        <div ref={main} id="main" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none lg:flex-row">
          <Guarded what="This stack">
            <Work
              stack={stack}
              stackId={stackId}
              data={data}
              rest={rest}
              place={place}
              named={named}
              hands={hands}
              troubled={trouble !== undefined}
            />
          </Guarded>
        </div>
      )}
    </div>
  );
}

/** Places whose address may name a page. */
const NAMING = new Set<Place>(['large', 'bench', 'text', 'inspect']);
/** Places that belong to a step of another name. */
const AS: Partial<Record<Place, 'inspect' | 'bind'>> = { sample: 'inspect', describe: 'bind' };
/** Places that are a step of the way by themselves. */
const OWN_STEP = ['intake', 'text', 'inspect', 'bind', 'dispatch'] as const;
