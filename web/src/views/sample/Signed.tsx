import { type FormEvent, useState } from 'react';
import type { Sample, Signature, Signing } from '@/api/types';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { count, when } from '@/words/figures';

export type SignedProps = {
  signing: Signing;
  may: boolean;
  busy: boolean;
  onSign: () => void;
  onReopen: (why: string) => void;
};

/** Whoever signed for the stack, or what stands against signing; a signed stack is opened again with a reason. */
export function Signed({ signing, may, busy, onSign, onReopen }: SignedProps) {
  const signature = signing.signed ? signing.signatures[0] : undefined;
  return (
    <section
      aria-labelledby="signature"
      className="flex flex-col gap-4 border-t border-hairline px-7 py-5 first:border-t-0"
    >
      <h2 id="signature" className="text-title font-semibold">
        {signature ? `${signature.by} signed for this stack` : 'Signature'}
        {signature && <span className="ml-2 font-mono text-body font-normal text-soft">{when(signature.at)}</span>}
      </h2>
      {signature ? (
        <>
          <p className="text-soft">It is closed to changes until somebody opens it again.</p>
          <Records signature={signature} main />
          <Reopen may={may} busy={busy} onReopen={onReopen} />
        </>
      ) : !signing.signable ? (
        <ul aria-label="Before it can be signed" className="flex flex-col gap-1.5">
          {signing.against.map((sentence) => (
            <li key={sentence} className="border-l-3 border-hairline pl-3 text-soft">
              {sentence}
            </li>
          ))}
        </ul>
      ) : (
        <>
          <p className="text-soft">
            Every page is in an accepted lot. Signed for, the stack is closed to changes, and the record is made.
          </p>
          <div>
            <Button
              kind="main"
              shortcut="Shift+s"
              disabled={busy}
              why={may ? '' : 'Only inspectors, technicians and administrators sign.'}
              onClick={onSign}
            >
              Sign for this stack
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

/** The inspection record to fetch. */
function Records({ signature, main = false }: { signature: Signature; main?: boolean }) {
  const base = `/api/v1/signatures/${signature.id}/record`;
  return (
    <span className="flex flex-wrap gap-2">
      <Button asChild kind={main ? 'main' : 'plain'} size={main ? 'normal' : 'small'}>
        <a href={`${base}.pdf`} download>
          Record as PDF/A
        </a>
      </Button>
      <Button asChild size={main ? 'normal' : 'small'}>
        <a href={`${base}.json`} download>
          Record as JSON
        </a>
      </Button>
    </span>
  );
}

function Reopen({ may, busy, onReopen }: Pick<SignedProps, 'may' | 'busy' | 'onReopen'>) {
  const [why, setWhy] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (why.trim()) onReopen(why);
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
      <Field
        label="Why it is opened again"
        value={why}
        maxLength={400}
        className="w-96"
        disabled={!may}
        onChange={({ target }) => setWhy(target.value)}
      />
      <Button
        type="submit"
        disabled={busy || !why.trim()}
        why={may ? '' : 'Only inspectors, technicians and administrators reopen.'}
      >
        Reopen
      </Button>
    </form>
  );
}

/** Samples that were decided, and signatures that were given, the last first. */
export function Past({ signing }: { signing: Signing }) {
  const decided = signing.samples.filter(({ state }) => state !== 'open');
  const reopened = signing.signatures.filter(({ reopened_at }) => reopened_at !== null);
  if (decided.length + reopened.length === 0) return null;
  return (
    <section aria-labelledby="past" className="flex flex-col gap-2 border-t border-hairline px-7 py-5">
      <h2 id="past" className="font-semibold">
        Before
      </h2>
      <ul>
        {reopened.map((one) => (
          <li key={`s${one.id}`} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hairline py-2">
            <span className="w-56 shrink-0 font-mono text-small text-soft">{when(one.reopened_at ?? one.at)}</span>
            <span className="min-w-0 flex-1">
              {one.reopened_by} opened again what {one.by} had signed for:{' '}
              <span className="text-soft">{one.reopened_why}</span>
            </span>
            <Records signature={one} />
          </li>
        ))}
        {decided.map((one) => (
          <li key={one.id} className="flex flex-wrap gap-x-4 gap-y-1 border-b border-hairline py-2">
            <span className="w-56 shrink-0 font-mono text-small text-soft">{when(one.decided_at ?? one.at)}</span>
            <span className="min-w-0 flex-1">
              {one.state === 'accepted' ? 'Accepted' : one.returned ? 'Given back' : 'Not accepted'} by {one.decided_by}
              :{' '}
              <span className="text-soft">
                {lotWords(one)}, {count(one.pages.length)} looked at, {count(one.bad)} bad
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const lotWords = (one: Sample) =>
  one.first === null ? `the stack of ${count(one.lot)} pages` : `a document of ${count(one.lot)} pages`;
