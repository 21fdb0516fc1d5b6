import { useQuery } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { bindingQuery, useBinding } from '@/api/binding';
import { useMay } from '@/api/people';
import { useBind } from '@/api/queries';
import type { Binding, BindingChange, Pages } from '@/api/types';
import { comingOf } from '@/engine/coming';
import { useCommands } from '@/hooks/useCommands';
import { SidePanel } from '@/ui/SidePanel';
import { Empty, Failed, Loading } from '@/ui/States';
import { counted } from '@/words/figures';
import { Access } from './Access';
import { Bound } from './Bound';
import { BoundPage } from './BoundPage';
import { ByteStrip } from './ByteStrip';
import { ComingList } from './Coming';
import { Describe } from './Describe';
import { Exports } from './Exports';
import { Make, Making, notYet } from './Making';
import { MarkedPage } from './MarkedPage';
import { Numbers } from './Numbers';
import { Said } from './Said';
import { useAccess } from './useAccess';

export type BindViewProps = {
  stackId: number;
  stackName: string;
  data: Pages | undefined;
  /** The page that is looked at; the fore-edge leads to it. */
  page: number | undefined;
  onPage: (page: number) => void;
};

/** The making of documents is seen: what the pages will make, each page as it is bound, what is said of it, what came of it. */
export function BindView({ data, stackId, ...rest }: BindViewProps) {
  const { data: binding, error, refetch } = useQuery(bindingQuery(stackId, data?.counts.ready ?? 0));
  if (data && binding) return <Binder data={data} binding={binding} stackId={stackId} {...rest} />;
  return (
    <main className="flex min-w-0 flex-1 flex-col p-7">
      {error ? (
        <Failed message={error.message} retry={() => refetch()} />
      ) : (
        <Loading label="Loading what is to be bound" className="h-40" />
      )}
    </main>
  );
}

type BinderProps = BindViewProps & { data: Pages; binding: Binding };
const SIDES = [
  { value: 'describe', label: 'Describe' },
  { value: 'numbers', label: 'Numbers' },
  { value: 'access', label: 'Access' },
  { value: 'bound', label: 'Bound' },
] as const;
type Side = (typeof SIDES)[number]['value'];

function Binder({ stackId, stackName, data, binding, page, onPage }: BinderProps) {
  const may = useMay('work');
  const { mutateAsync } = useBinding(stackId, data.counts.ready);
  const last = useRef(Promise.resolve(true));
  /** Counts what has been said and kept: pictures of copies are other ones after that. */
  const [look, setLook] = useState(0);
  const say = (change: BindingChange) => {
    last.current = mutateAsync(change).then(
      () => {
        setLook((count) => count + 1);
        return true;
      },
      () => false, // told where all refusals are told
    );
  };
  const bind = useBind(stackId);
  const [side, setSide] = useState<Side>('describe');
  const [apart, setApart] = useState(false);
  const { pages: all, starts } = data;
  const documents = useMemo(() => {
    const parts = comingOf(all, starts);
    return binding.whole && parts.length > 0 ? [parts.flat()] : parts;
  }, [all, starts, binding.whole]);
  const pages = useMemo(() => documents.flat(), [documents]);
  const shown = pages.find((one) => one.id === page) ?? pages[0];
  const at = Math.max(
    0,
    documents.findIndex((one) => one.some(({ id }) => id === shown?.id)),
  );
  const given = (index: number) => binding.documents[documents[index]?.[0]?.id ?? 0]?.title;
  const title = (index: number) => given(index) || titled(stackName, index, documents.length);
  const named = (index: number) => given(index) || (documents.length > 1 ? `Document ${index + 1}` : stackName);
  const { counts } = data;
  const ready = !notYet(counts, may);
  // A title that was just typed is kept when its field is left, which may be by this very press; one that was refused is to
  // be put right first.
  const make = async () => {
    if (await last.current) bind.mutate(stackName, { onSuccess: () => setSide('bound') });
  };
  const go = (by: number) => {
    const next = pages[pages.findIndex((one) => one.id === shown?.id) + by];
    if (next) onPage(next.id);
  };
  const first = documents[at]?.[0];
  const access = useAccess({
    stackId,
    binding,
    page: shown,
    first: first?.id,
    open: side === 'access',
    may,
    why: notYet(counts, may),
    say,
    kept: () => last.current,
    onMade: () => setSide('bound'),
  });
  useCommands([
    { name: 'next', label: 'Next page', key: 'ArrowRight', subject: 'Choose', repeats: true, perform: () => go(1) },
    {
      name: 'previous',
      label: 'Previous page',
      key: 'ArrowLeft',
      subject: 'Choose',
      repeats: true,
      perform: () => go(-1),
    },
    { name: 'layers', label: 'Layers apart, or the page', key: 'l', subject: 'Look', perform: () => setApart(!apart) },
    { name: 'describe', label: 'Describe the document', key: 'd', subject: 'Look', perform: () => setSide('describe') },
    { name: 'numbers', label: 'Numbers of its pages', key: 'n', subject: 'Look', perform: () => setSide('numbers') },
    { name: 'access', label: 'Access copies', key: 'a', subject: 'Look', perform: () => setSide('access') },
    { name: 'bound', label: 'What is bound', key: 'k', subject: 'Look', perform: () => setSide('bound') },
    {
      name: 'bind now',
      label: documents.length > 1 ? `Bind ${documents.length} documents` : 'Bind',
      key: 'Shift+b',
      subject: 'Changes',
      enabled: ready && !bind.isPending,
      perform: make,
    },
  ]);
  return (
    <main className="flex min-w-0 flex-1 flex-col lg:min-h-0 lg:flex-row">
      <section
        aria-label="To bind"
        className="flex w-full shrink-0 flex-col border-r border-hairline bg-panel lg:min-h-0 lg:w-76"
      >
        <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-5 py-4">
          <h2 className="text-title font-semibold">
            {counted(documents.length, 'document')}, {counted(pages.length, 'page')}
          </h2>
          <ComingList documents={documents} title={named} binding={binding} at={at} onChoose={onPage} />
          <Said data={data} />
          <Making binding={binding} say={say} may={may} />
        </div>
        <Make
          binding={binding}
          counts={counts}
          documents={documents.length}
          may={may}
          pending={bind.isPending}
          onBind={make}
        />
      </section>
      <div className="on-surround flex min-h-[70vh] min-w-0 flex-1 flex-col gap-3 bg-surround p-4 lg:min-h-0">
        {shown ? (
          <>
            {side === 'access' ? (
              <MarkedPage
                page={shown}
                look={String(look)}
                marks={binding.marks[shown.id] ?? []}
                tool={access.tool}
                out={access.out}
                may={may}
                onPut={access.put}
                onGone={access.gone}
              />
            ) : (
              <BoundPage page={shown} label={binding.page_labels[shown.id] ?? ''} apart={apart} onApart={setApart} />
            )}
            <ByteStrip pages={pages} current={shown.id} onGo={onPage} />
          </>
        ) : (
          <Empty title="There is no page to bind">
            Pages are bound when they are corrected and read; those that are aside stay out.
          </Empty>
        )}
      </div>
      <SidePanel label="The document" value={side} options={SIDES} onChange={setSide}>
        {side === 'bound' ? (
          <>
            {may && (
              <Exports
                stackId={stackId}
                page={shown}
                first={first?.id}
                documents={documents.length}
                why={notYet(counts, may)}
              />
            )}
            <Bound stackId={stackId} may={may} />
          </>
        ) : !shown || !first ? (
          <p className="px-4 py-4 text-soft">There is no document yet.</p>
        ) : side === 'access' ? (
          <Access
            binding={binding}
            page={shown}
            tool={access.tool}
            may={may}
            documents={documents.length}
            passwords={access.passwords}
            pending={access.pending}
            why={notYet(counts, may)}
            onTool={access.setTool}
            onPut={access.put}
            onGone={access.gone}
            onOut={access.leaveOut}
            onSay={(said) => say({ access: said })}
            onPasswords={access.setPasswords}
            onMake={access.make}
          />
        ) : side === 'describe' ? (
          <Describe
            first={first.id}
            title={title(at)}
            said={binding.documents[first.id]}
            otherwise={binding.otherwise}
            all={documents.length > 1 ? `/stacks/${stackId}/describe` : undefined}
            may={may}
            onSay={(said) => say({ documents: { [first.id]: said } })}
          />
        ) : (
          <Numbers
            key={shown.id}
            page={shown}
            pages={pages}
            runs={binding.labels}
            may={may}
            onSay={(labels) => say({ labels })}
          />
        )}
      </SidePanel>
    </main>
  );
}

const titled = (name: string, index: number, of: number) => (of > 1 ? `${name}, ${index + 1} of ${of}` : name);
