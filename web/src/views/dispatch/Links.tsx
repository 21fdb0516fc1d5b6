import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { sharesQuery, useShares } from '@/api/sharing';
import type { BoundDocument, Share } from '@/api/types';
import { notify } from '@/engine/notices';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Radios } from '@/ui/Radios';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { Clipped } from '@/ui/Tip';
import { counted, when } from '@/words/figures';
import { endWords, RIGHT_WORDS } from '@/words/sharing';

export type LinksProps = { stackId: number; documents: readonly BoundDocument[] };

/** Links by which people without an account look at documents: given, copied, withdrawn; how often each was used. */
export function Links({ stackId, documents }: LinksProps) {
  const { data: shares = [] } = useQuery(sharesQuery(stackId));
  const { withdraw } = useShares(stackId);
  const [giving, setGiving] = useState(false);
  const bound = documents.filter(({ state }) => state === 'bound');
  return (
    <section aria-label="Links" className="flex flex-col gap-3">
      <div className="flex items-center gap-3">
        <h2 className="mr-auto text-title font-semibold">Links</h2>
        <Button size="small" disabled={bound.length === 0} onClick={() => setGiving(true)}>
          New link …
        </Button>
      </div>
      {shares.length === 0 ? (
        <p className="text-soft">A link lets people without an account look at a document, or take it.</p>
      ) : (
        <ul className="border-t border-hairline">
          {shares.map((share) => (
            <Row key={share.id} share={share} busy={withdraw.isPending} onWithdraw={() => withdraw.mutate(share.id)} />
          ))}
        </ul>
      )}
      {giving && <NewLink stackId={stackId} documents={bound} onClose={() => setGiving(false)} />}
    </section>
  );
}

function Row({ share, busy, onWithdraw }: { share: Share; busy: boolean; onWithdraw: () => void }) {
  const last = share.uses[0];
  const used = [
    share.opened ? `opened ${counted(share.opened, 'time')}` : 'not opened yet',
    share.taken ? `taken ${counted(share.taken, 'time')}` : '',
    share.mended ? `put right ${counted(share.mended, 'time')}` : '',
    last ? `last ${when(last.at)}` : '',
  ];
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hairline py-2">
      <span className="flex min-w-0 flex-1 basis-72 flex-col">
        <span className="flex min-w-0 flex-wrap items-baseline gap-x-3">
          <Clipped text={share.title} className="max-w-80 font-semibold" />
          <span className="text-soft">
            {RIGHT_WORDS[share.right]}
            {share.has_password && ', with a password'}
          </span>
          <span className={share.ended ? 'font-semibold' : 'text-soft'}>{endWords(share)}</span>
        </span>
        <span className="text-small text-soft">
          {[share.whom && `for ${share.whom}`, `given by ${share.by}`, ...used].filter(Boolean).join(' · ')}
        </span>
      </span>
      {!share.ended && (
        <span className="flex gap-1">
          <Button size="small" aria-label={`Copy the link to ${share.title}`} onClick={() => copy(share.address)}>
            Copy
          </Button>
          <Button asChild size="small">
            <a href={share.address} target="_blank" rel="noreferrer" aria-label={`Open the link to ${share.title}`}>
              Open
            </a>
          </Button>
          <Button size="small" disabled={busy} aria-label={`Withdraw the link to ${share.title}`} onClick={onWithdraw}>
            Withdraw
          </Button>
        </span>
      )}
    </li>
  );
}

/** A browser may refuse, as on a page without TLS: then it is shown to be copied by hand. */
async function copy(address: string) {
  try {
    await navigator.clipboard.writeText(address);
    notify('The link is copied.');
  } catch {
    notify(address);
  }
}

type NewLinkProps = LinksProps & { onClose: () => void };
type Right = Share['right'];

function NewLink({ stackId, documents, onClose }: NewLinkProps) {
  const { give } = useShares(stackId);
  const [document, setDocument] = useState(String(documents[0]?.id ?? ''));
  const [chosen, setRight] = useState<Right>('look');
  const kind = documents.find(({ id }) => String(id) === document)?.kind;
  const right = chosen === 'mend' && kind !== 'archive' ? 'take' : chosen;
  const say = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const text = (name: string) => String(given.get(name) ?? '').trim();
    const share = { right, last_day: text('last_day') || null, password: text('password'), whom: text('whom') };
    give.mutate(
      { document: Number(document), share },
      {
        onSuccess: (made) => {
          onClose();
          copy(made.address);
        },
      },
    );
  };
  return (
    <Sheet open onOpenChange={onClose} title="New link">
      <form onSubmit={say} className="flex flex-col gap-4">
        <Select
          label="Document"
          value={document}
          onChange={setDocument}
          options={documents.map(({ id, title, kind }) => ({
            value: String(id),
            label: kind === 'access' ? `${title}, access copy` : title,
          }))}
        />
        <Radios
          label="What it lets people do"
          value={right}
          onChange={setRight}
          options={[
            { value: 'look', label: 'Look at its pages' },
            { value: 'take', label: 'Look at its pages, and take the file' },
            ...(kind === 'archive'
              ? [{ value: 'mend' as const, label: 'All that, and put its words and description right' }]
              : []),
          ]}
        />
        <Field label="Last day; empty for no end" name="last_day" type="date" defaultValue={inDays(LASTS)} />
        <Field
          label="Password; empty for none"
          name="password"
          type="password"
          autoComplete="new-password"
          minLength={8}
          help="Tell it another way than the link."
        />
        <Field label="For whom" name="whom" maxLength={200} autoComplete="off" />
        <Button kind="main" type="submit" className="self-start" disabled={give.isPending}>
          Give the link
        </Button>
      </form>
    </Sheet>
  );
}

const LASTS = 30;

function inDays(days: number): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return day.toLocaleDateString('sv-SE');
}
