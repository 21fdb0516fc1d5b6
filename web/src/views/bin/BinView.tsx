import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'wouter';
import { binQuery, useBin, useMay } from '@/api/people';
import type { Bin } from '@/api/types';
import { Button } from '@/ui/Button';
import { Screen } from '@/ui/Screen';
import { Empty, Failed, Loading } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { count, counted, when } from '@/words/figures';

/** What was deleted, until when it can be taken back, and taking it back. */
export function BinView({ user }: { user: string }) {
  const { data: bin, error, refetch } = useQuery(binQuery);
  const empty = bin && bin.stacks.length + bin.documents.length + bin.pages.length === 0;
  return (
    <Screen user={user} title="Bin">
      {empty ? (
        <Empty title="The bin is empty">
          <p>Stacks, documents and pages that are deleted lie here for 30 days and can be taken back.</p>
        </Empty>
      ) : bin ? (
        <Contents bin={bin} />
      ) : error ? (
        <Failed message={error.message} retry={() => refetch()} />
      ) : (
        <Loading label="Loading the bin" className="h-40" />
      )}
    </Screen>
  );
}

function Contents({ bin }: { bin: Bin }) {
  const { restore, restorePages } = useBin();
  const may = useMay('work');
  const busy = restore.isPending || restorePages.isPending || !may;
  const pages = new Map<number, Bin['pages']>();
  for (const page of bin.pages) pages.set(page.stack, [...(pages.get(page.stack) ?? []), page]);
  return (
    <div className="flex flex-col gap-10">
      <Kind title="Stacks" of={bin.stacks_count}>
        {bin.stacks.map((stack) => (
          <Row
            key={stack.id}
            name={stack.name}
            about={counted(stack.pages, 'page')}
            until={stack.until}
            by={stack.by}
            busy={busy}
            onRestore={() => restore.mutate({ kind: 'stacks', id: stack.id })}
          />
        ))}
      </Kind>
      <Kind title="Documents" of={bin.documents_count}>
        {bin.documents.map((document) => (
          <Row
            key={document.id}
            name={document.title}
            about={`${counted(document.pages, 'page')} of ${document.stack_name}`}
            until={document.until}
            by={document.by}
            busy={busy}
            onRestore={() => restore.mutate({ kind: 'documents', id: document.id })}
          />
        ))}
      </Kind>
      {[...pages].map(([stack, gone]) => (
        <Kind
          key={stack}
          title={`Pages of ${gone[0]?.stack_name ?? ''}`}
          href={`/stacks/${stack}`}
          whole={bin.pages.length === bin.pages_count}
          onRestore={busy ? undefined : () => restorePages.mutate({ stack, pages: gone.map(({ id }) => id) })}
        >
          {gone.map((page) => (
            <Row
              key={page.id}
              name={page.source}
              picture={page.thumb ? `/thumbs/measure/${page.thumb}.webp` : undefined}
              until={page.until}
              busy={busy}
              onRestore={() => restorePages.mutate({ stack, pages: [page.id] })}
            />
          ))}
        </Kind>
      ))}
      {bin.pages.length < bin.pages_count && <Rest shown={bin.pages.length} of={bin.pages_count} />}
    </div>
  );
}

type KindProps = {
  title: string;
  href?: string;
  /** How many there are, where not all of them may be here. */
  of?: number;
  /** Whether no more of them may be there than are here. */
  whole?: boolean;
  /** Takes back all that are here at once. */
  onRestore?: (() => void) | undefined;
  children: ReactNode[];
};

function Kind({ title, href, of, whole, onRestore, children }: KindProps) {
  if (children.length === 0) return null;
  return (
    <section aria-label={title} className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center justify-between gap-4">
        <h2 className="text-title font-semibold">{href ? <Link href={href}>{title}</Link> : title}</h2>
        {href && children.length > 1 && (
          <Button disabled={!onRestore} onClick={onRestore}>
            Take back {whole ? 'all' : 'these'} {count(children.length)}
          </Button>
        )}
      </div>
      <ul className="border-t border-hairline">{children}</ul>
      {of !== undefined && children.length < of && <Rest shown={children.length} of={of} />}
    </section>
  );
}

/** What lies here and is not shown is not lost. */
function Rest({ shown, of }: { shown: number; of: number }) {
  return (
    <p role="status" className="text-soft">
      Shown are the {count(shown)} of {count(of)} that were deleted last. Once some are taken back, earlier ones appear.
    </p>
  );
}

type RowProps = {
  name: string;
  about?: string;
  picture?: string | undefined;
  until: string;
  by?: string;
  busy: boolean;
  onRestore: () => void;
};

function Row({ name, about, picture, until, by, busy, onRestore }: RowProps) {
  return (
    <li className="flex min-h-12 flex-wrap items-center gap-x-4 border-b border-hairline py-1.5">
      {picture && <img src={picture} alt="" className="h-10 w-8 shrink-0 object-contain" />}
      <span className="min-w-0 flex-1 basis-48">
        <Clipped text={name} />
      </span>
      {about && <span className="shrink-0 text-soft">{about}</span>}
      {by && <span className="shrink-0 text-soft">deleted by {by}</span>}
      <span className="shrink-0 font-mono text-small text-soft">until {when(until)}</span>
      <Button aria-label={`Take back ${name}`} disabled={busy} onClick={onRestore}>
        Take back
      </Button>
    </li>
  );
}
