import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { sharedAddress, sharedQuery, useOpenShared } from '@/api/sharing';
import type { Visit } from '@/api/types';
import { useView } from '@/hooks/useView';
import { Button } from '@/ui/Button';
import { Door } from '@/ui/Door';
import { Fold } from '@/ui/Fold';
import { Password } from '@/ui/Password';
import { Empty, Loading } from '@/ui/States';
import { Stacked } from '@/ui/signs';
import { bytes, counted, day } from '@/words/figures';
import { SaidOfIt } from './SaidOfIt';
import { WordsToMend } from './WordsToMend';

/** Where a link leads people without an account: a document to look at, and to take where they may. */
export function SharedView({ secret }: { secret: string }) {
  const { data: door, error } = useQuery(sharedQuery(secret));
  const open = useOpenShared(secret);
  const [password, setPassword] = useState('');
  const asked = useRef(false);
  const { mutate } = open;
  useEffect(() => {
    if (!door || door.asks_password || asked.current) return;
    asked.current = true;
    mutate('');
  }, [door, mutate]);
  if (open.data) return <Shared secret={secret} visit={open.data} />;
  const closed = error ?? (door?.asks_password ? null : open.error);
  if (closed)
    return (
      <main id="main" className="h-full">
        <Empty title="This link leads nowhere">
          <p role="alert">{closed.message}</p>
        </Empty>
      </main>
    );
  if (!door?.asks_password) return <Loading label="Opening the document" className="m-6 h-10" />;
  return (
    <Door
      title="A document for you"
      said={open.error?.message ?? ''}
      action="Open"
      busy={open.isPending}
      onEnter={() => mutate(password)}
    >
      <Password value={password} onChange={setPassword} />
    </Door>
  );
}

function Shared({ secret, visit }: { secret: string; visit: Visit }) {
  const main = useView<HTMLElement>(visit.title);
  return (
    <div className="flex h-full flex-col">
      <header className="flex min-h-13 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-hairline bg-panel px-6 py-1.5">
        <Stacked className="size-6 text-accent" />
        <h1 className="min-w-0 flex-1 basis-48 truncate font-semibold">{visit.title}</h1>
        <p className="text-small text-soft">
          {[
            visit.pages > 0 && counted(visit.pages, 'page'),
            visit.by && `from ${visit.by}`,
            visit.ends_at && `until ${day(new Date(Date.parse(visit.ends_at) - 1).toISOString())}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
        {visit.may_take && (
          <Button asChild kind="main">
            <a href={sharedAddress(secret, 'file', visit.visit)} download>
              Take it, {bytes(visit.bytes)}
            </a>
          </Button>
        )}
      </header>
      <main
        ref={main}
        id="main"
        tabIndex={-1}
        className="on-surround flex min-h-0 flex-1 flex-col items-center gap-6 overflow-y-auto bg-surround p-6 text-surround-ink outline-none"
      >
        {visit.may_mend && (
          <section aria-label="What is said of it" className="flex w-full max-w-4xl flex-col gap-2">
            <p>You may put right what is said of it, and its words below each page: press a word to type it anew.</p>
            <Fold onSurround title="What is said of it">
              <SaidOfIt secret={secret} visit={visit.visit} />
            </Fold>
          </section>
        )}
        {visit.pages === 0 && <p>It cannot be shown here{visit.may_take ? ': take it to look at it.' : '.'}</p>}
        {Array.from({ length: visit.pages }, (_, at) => at + 1).map((number) => (
          <figure key={number} className="w-full max-w-4xl">
            <img
              src={sharedAddress(secret, `pages/${number}`, visit.visit)}
              alt={`Page ${number}`}
              loading="lazy"
              className="min-h-80 w-full bg-paper object-contain"
            />
            <figcaption className="pt-1 font-mono text-small">
              page {number} of {visit.pages}
            </figcaption>
            {visit.may_mend && (
              <Fold onSurround title={`Words of page ${number}`}>
                <WordsToMend secret={secret} visit={visit.visit} page={number} />
              </Fold>
            )}
          </figure>
        ))}
      </main>
    </div>
  );
}
