import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useBin, useMay } from '@/api/people';
import { documentsQuery, useBind } from '@/api/queries';
import type { BoundDocument, PageRow, Pages } from '@/api/types';
import { useRetry } from '@/api/work';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { notify } from '@/ui/Notices';
import { Failed, Loading } from '@/ui/States';
import { bytes, counted, when } from '@/words/figures';

export type BindViewProps = { stackId: number; stackName: string; data: Pages | undefined };

/** Title, what will be bound and how large it gets, and the documents bound so far. */
export function BindView({ stackId, stackName, data }: BindViewProps) {
  const [title, setTitle] = useState<string>();
  const bind = useBind(stackId);
  const { data: documents, error, refetch } = useQuery(documentsQuery(stackId, data?.change ?? 0));
  const counts = data?.counts;
  const waiting = counts ? counts.pages - counts.ready - counts.aside - counts.failed : 0;
  const failed = data?.pages.filter((page) => page.state === 'failed') ?? [];
  const forecast = data?.pages.reduce((sum, page) => sum + (page.state === 'ready' ? (page.bytes ?? 0) : 0), 0) ?? 0;
  const documentCount = data ? runsOf(data.pages) : 0;
  const again = data?.pages.filter((page) => page.rescan).length ?? 0;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    bind.mutate(title ?? stackName);
  };
  return (
    <main className="min-w-0 flex-1 overflow-y-auto bg-ground p-6">
      <div className="mx-auto flex max-w-[760px] flex-col gap-6">
        <form onSubmit={submit} className="flex flex-col gap-4 rounded-md border border-hairline bg-panel p-5">
          <Field
            label="Title of the document"
            required
            maxLength={200}
            value={title ?? stackName}
            onChange={(e) => setTitle(e.target.value)}
          />
          <dl className="grid grid-cols-5 gap-3">
            <Fact label="Pages to bind" value={String(counts?.ready ?? '–')} />
            <Fact label="Documents" value={String(documentCount || '–')} />
            <Fact label="Aside, left out" value={String(counts?.aside ?? '–')} />
            <Fact label="Failed, left out" value={String(counts?.failed ?? '–')} />
            <Fact label="About" value={bytes(forecast)} />
          </dl>
          {again > 0 && (
            <p role="status" className="border-l-2 border-ink pl-2">
              {again === 1 ? '1 page is' : `${again} pages are`} marked to be captured again, and bound as{' '}
              {again === 1 ? 'it is' : 'they are'}.
            </p>
          )}
          {failed.length > 0 && (
            <ul aria-label="Failed pages" className="flex max-h-40 flex-col gap-1 overflow-y-auto">
              {failed.map((page) => (
                <li key={page.id} className="border-l-2 border-ink pl-2">
                  Page {page.number}, {page.source}: {page.error}
                </li>
              ))}
            </ul>
          )}
          <div className="flex items-center gap-4">
            <Button
              kind="main"
              type="submit"
              disabled={bind.isPending || waiting > 0 || !counts?.ready || !(title ?? stackName).trim()}
            >
              Bind as PDF/A-2u
            </Button>
            <p aria-live="polite">
              {waiting > 0
                ? `${counted(waiting, 'page')} still being worked on.`
                : counts && counts.ready === 0
                  ? 'There is no page to bind.'
                  : ''}
            </p>
          </div>
        </form>
        <section aria-label="Documents" className="flex flex-col gap-2">
          <h2 className="text-body font-semibold">Documents</h2>
          {documents ? (
            documents.length ? (
              <ul className="flex flex-col gap-2">
                {documents.map((document) => (
                  <DocumentRow key={document.id} document={document} stackId={stackId} />
                ))}
              </ul>
            ) : (
              <p className="text-soft">Nothing has been bound from this stack yet.</p>
            )
          ) : error ? (
            <Failed message={error.message} retry={() => refetch()} />
          ) : (
            <Loading label="Loading documents" className="h-16" />
          )}
        </section>
      </div>
    </main>
  );
}

/** How many documents the breaks make of what is ready; the rule is the server's. */
function runsOf(pages: readonly PageRow[]): number {
  let count = 0;
  let open = false;
  for (const page of pages) {
    if (page.breaks) open = false;
    if (page.state !== 'ready' || open) continue;
    open = true;
    count += 1;
  }
  return count;
}

function DocumentRow({ document, stackId }: { document: BoundDocument; stackId: number }) {
  const retry = useRetry();
  const { deleteDocument } = useBin();
  const may = useMay('work');
  return (
    <li className="flex min-h-16 items-center gap-4 rounded-md border border-hairline bg-panel px-4 py-2">
      <div className="min-w-0 flex-1">
        <p className="truncate text-body" title={document.title}>
          {document.title}
        </p>
        <p className="text-small text-soft">{when(document.created_at)}</p>
      </div>
      {document.state === 'bound' ? (
        <>
          <span className="font-mono">{counted(document.pages, 'page')}</span>
          <span className="w-20 text-right font-mono">{bytes(document.bytes ?? 0)}</span>
          <span className="font-mono">{document.conformance}</span>
          <Button asChild>
            <a href={`/api/v1/documents/${document.id}/file`} download>
              Download
            </a>
          </Button>
          {may && (
            <Button
              kind="quiet"
              aria-label={`Delete ${document.title}`}
              disabled={deleteDocument.isPending}
              onClick={() =>
                deleteDocument.mutate(document.id, {
                  onSuccess: () => notify(`“${document.title}” is in the bin for 30 days.`),
                })
              }
            >
              Delete
            </Button>
          )}
        </>
      ) : document.state === 'binding' ? (
        <output>Binding {counted(document.pages, 'page')} …</output>
      ) : (
        <>
          <p role="alert" className="max-w-[44ch]">
            {document.error}
          </p>
          <Button disabled={retry.isPending} onClick={() => retry.mutate({ stack: stackId })}>
            Try again
          </Button>
        </>
      )}
    </li>
  );
}

function Fact({ label, value }: { label: string; value: string }) {
  return (
    <div>
      <dt className="text-small text-soft">{label}</dt>
      <dd className="font-mono text-title">{value}</dd>
    </div>
  );
}
