import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useBin, useMay } from '@/api/people';
import { documentsQuery, useBind } from '@/api/queries';
import type { BoundDocument, PageRow, Pages } from '@/api/types';
import { useRetry } from '@/api/work';
import { forecastOf } from '@/engine/forecast';
import { notify } from '@/engine/notices';
import { causesOf } from '@/engine/trouble';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { ForeEdge } from '@/ui/ForeEdge';
import { Failed, Loading } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { bytes, count, counted, numbers, when } from '@/words/figures';
import { isNamedByDay } from '@/words/names';
import { isSaid, originalWords } from '@/words/original';

export type BindViewProps = { stackId: number; stackName: string; data: Pages | undefined };

/** The documents that the pages will make, how large they get page by page, and those bound so far. */
export function BindView({ stackId, stackName, data }: BindViewProps) {
  return (
    <main className="flex min-w-0 flex-1 flex-col lg:min-h-0 lg:flex-row">
      <Coming stackId={stackId} stackName={stackName} data={data} />
      <Bound stackId={stackId} />
    </main>
  );
}

function Coming({ stackId, stackName, data }: BindViewProps) {
  const [title, setTitle] = useState<string>();
  const bind = useBind(stackId);
  const may = useMay('work');
  const counts = data?.counts;
  const waiting = counts ? counts.pages - counts.ready - counts.aside - counts.failed : 0;
  const failed = data?.pages.filter((page) => page.state === 'failed') ?? [];
  const again = data?.pages.filter((page) => page.rescan).length ?? 0;
  const unread = data?.pages.filter(({ state, words }) => state === 'ready' && words === null).length ?? 0;
  const look = counts?.inspect ?? 0;
  const documents = data ? forecastOf(data.pages, data.starts) : [];
  const size = documents.reduce((sum, one) => sum + one.bytes, 0);
  const name = title ?? stackName;
  const why = !may
    ? 'Only technicians and administrators bind.'
    : waiting > 0
      ? `${counted(waiting, 'page')} still being worked on.`
      : counts && counts.ready === 0
        ? 'There is no page to bind.'
        : name.trim()
          ? ''
          : 'Give the document a title.';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!why) bind.mutate(name);
  };
  return (
    <section aria-label="To bind" className="flex min-w-0 flex-1 flex-col gap-5 overflow-y-auto px-7 py-6">
      <form onSubmit={submit} className="flex flex-col gap-4">
        <h2 className="text-title font-semibold">
          {counts ? `${counted(counts.ready, 'page')} to bind, ${counted(documents.length, 'document')}` : 'To bind'}
        </h2>
        <Field
          label="Title of the document"
          required
          maxLength={200}
          value={name}
          onChange={({ target }) => setTitle(target.value)}
          {...(isNamedByDay(name)
            ? { help: 'Nobody has named this stack. Say what is in it: the document is found by its title.' }
            : {})}
        />
        <dl className="flex flex-wrap gap-x-10 gap-y-3">
          <Figure label="Pages to bind" value={told(counts?.ready)} />
          <Figure label="Documents" value={told(documents.length || undefined)} />
          <Figure label="Aside, left out" value={told(counts?.aside)} />
          <Figure label="Failed, left out" value={told(counts?.failed)} />
          <Figure label="Estimated size" value={bytes(size)} />
        </dl>
        {again > 0 && (
          <p role="status" className="border-l-3 border-ink pl-3">
            {again === 1 ? '1 page is' : `${again} pages are`} marked for recapture, and bound as{' '}
            {again === 1 ? 'it is' : 'they are'}.
          </p>
        )}
        {unread > 0 && (
          <p role="status" className="border-l-3 border-ink pl-3">
            {counted(unread, 'page')} of these {unread === 1 ? 'has' : 'have'} not been read, and cannot be searched in
            the document: reading is put off.
          </p>
        )}
        {look > 0 && (
          <p role="status" className="border-l-3 border-hairline pl-3 text-soft">
            {counted(look, 'finding')} {look === 1 ? 'waits' : 'wait'} in Inspect.
          </p>
        )}
        {failed.length > 0 && (
          <ul aria-label="Failed pages" className="flex max-h-40 flex-col gap-1 overflow-y-auto">
            {causesOf(failed).map(({ message, pages }) => (
              <li key={message} className="border-l-3 border-ink pl-3">
                {pages.length === 1
                  ? `Page ${pages[0]?.number}, ${pages[0]?.source}`
                  : `${counted(pages.length, 'page')} (${numbers(pages)})`}
                : {message}
              </li>
            ))}
          </ul>
        )}
        <Button kind="main" type="submit" disabled={bind.isPending} why={why} className="min-h-11">
          {documents.length > 1 ? `Bind ${documents.length} documents as PDF/A-2u` : 'Bind as PDF/A-2u'}
        </Button>
      </form>
      {documents.length > 0 && (
        <ul aria-label="Documents to come" className="flex flex-col">
          {documents.map((one, index) => (
            <li key={one.pages[0]?.id} className="flex items-center gap-4 border-t border-hairline py-3">
              <span aria-hidden="true" className="block h-16 w-14 shrink-0 bg-surround p-1">
                <ForeEdge lines={one.pages} className="h-full w-full" />
              </span>
              <span className="w-44 shrink-0">
                Document {index + 1}
                <br />
                <span className="text-soft">
                  {counted(one.pages.length, 'page')}, from {one.pages[0]?.number}
                </span>
              </span>
              <Sizes pages={one.pages} />
              <span className="w-20 shrink-0 text-right font-mono">{bytes(one.bytes)}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const told = (of: number | undefined) => (of === undefined ? '–' : count(of));

/** Bytes of a document, page by page. */
function Sizes({ pages }: { pages: readonly PageRow[] }) {
  const most = Math.max(1, ...pages.map((page) => page.bytes ?? 0));
  return (
    <svg
      viewBox={`0 0 ${pages.length} 40`}
      preserveAspectRatio="none"
      className="h-10 min-w-0 flex-1"
      role="img"
      aria-label={`Bytes page by page, the largest ${bytes(most)}`}
    >
      {pages.map((page, index) => {
        const high = Math.max(1, (38 * (page.bytes ?? 0)) / most);
        return (
          <rect key={page.id} x={index + 0.08} y={40 - high} width={0.84} height={high} className="fill-control" />
        );
      })}
    </svg>
  );
}

function Bound({ stackId }: { stackId: number }) {
  const { data: documents, error, refetch } = useQuery(documentsQuery(stackId));
  return (
    <section
      aria-label="Documents"
      className="flex w-full shrink-0 flex-col gap-3 overflow-y-auto border-l border-hairline bg-panel px-6 py-6 lg:w-110"
    >
      <h2 className="text-title font-semibold">
        {documents?.length ? `${counted(documents.length, 'document')} bound` : 'Documents'}
      </h2>
      {documents ? (
        documents.length ? (
          <ul className="flex flex-col">
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
  );
}

function DocumentRow({ document, stackId }: { document: BoundDocument; stackId: number }) {
  const retry = useRetry();
  const { deleteDocument } = useBin();
  const may = useMay('work');
  return (
    <li className="flex flex-col gap-1.5 border-t border-hairline py-3">
      <Clipped text={document.title} className="font-semibold" />
      <p className="flex flex-wrap gap-x-4 text-small text-soft">
        <span>{when(document.created_at)}</span>
        <span className="font-mono">{counted(document.pages, 'page')}</span>
        {document.bytes ? <span className="font-mono">{bytes(document.bytes)}</span> : null}
        {document.conformance && <span className="font-mono">{document.conformance}</span>}
      </p>
      {isSaid(document.original) && <p className="text-small">{originalWords(document.original)}</p>}
      {document.state === 'bound' ? (
        <div className="flex gap-2">
          <Button asChild size="small">
            <a href={`/api/v1/documents/${document.id}/file`} download>
              Download
            </a>
          </Button>
          {may && (
            <Button
              kind="quiet"
              size="small"
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
        </div>
      ) : document.state === 'binding' ? (
        <output>Binding {counted(document.pages, 'page')} …</output>
      ) : (
        <>
          <p role="alert" className="border-l-3 border-ink pl-3">
            {document.error}
          </p>
          <Button
            size="small"
            className="self-start"
            disabled={retry.isPending}
            onClick={() => retry.mutate({ stack: stackId })}
          >
            Try again
          </Button>
        </>
      )}
    </li>
  );
}

function Figure({ label, value }: { label: string; value: string }) {
  return (
    <div>
      <dt className="text-small text-soft">{label}</dt>
      <dd className="font-mono text-title">{value}</dd>
    </div>
  );
}
