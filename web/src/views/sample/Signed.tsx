import { type FormEvent, useState } from 'react';
import type { Signing } from '@/api/types';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { when } from '@/words/figures';
import { Records } from './Records';

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
