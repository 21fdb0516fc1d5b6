import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { documentQuery } from '@/api/binding';
import { useBin } from '@/api/people';
import { documentsQuery } from '@/api/queries';
import type { BoundDocument } from '@/api/types';
import { useRetry } from '@/api/work';
import { notify } from '@/engine/notices';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { Failed, Loading } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { PROFILES } from '@/words/binding';
import { bytes, counted, when } from '@/words/figures';
import { isSaid, originalWords } from '@/words/original';

/** The documents bound so far, the newest first. */
export function Bound({ stackId, may }: { stackId: number; may: boolean }) {
  const { data: documents, error, refetch } = useQuery(documentsQuery(stackId));
  const [shown, setShown] = useState<BoundDocument>();
  if (!documents)
    return error ? (
      <Failed message={error.message} retry={() => refetch()} />
    ) : (
      <Loading label="Loading documents" className="m-4 h-16" />
    );
  return (
    <div className="px-4 py-2">
      {documents.filter(({ state }) => state === 'bound').length > 1 && (
        <Button asChild size="small" className="my-2">
          <a href={`/api/v1/stacks/${stackId}/documents.zip`} download>
            Download all as a ZIP file
          </a>
        </Button>
      )}
      {documents.length ? (
        <ul aria-label="Documents bound" className="flex flex-col">
          {documents.map((document) => (
            <DocumentRow
              key={document.id}
              document={document}
              stackId={stackId}
              may={may}
              onShow={() => setShown(document)}
            />
          ))}
        </ul>
      ) : (
        <p className="py-2 text-soft">Nothing has been bound from this stack yet.</p>
      )}
      <CheckedSheet document={shown} onClose={() => setShown(undefined)} />
    </div>
  );
}

function kindWords({ kind, profile, suffix }: BoundDocument): string {
  if (kind === 'access') return 'Access copy';
  return kind === 'export' ? suffix.slice(1) : PROFILES[profile];
}

type RowProps = { document: BoundDocument; stackId: number; may: boolean; onShow: () => void };

function DocumentRow({ document, stackId, may, onShow }: RowProps) {
  const retry = useRetry();
  const { deleteDocument } = useBin();
  return (
    <li className="flex flex-col gap-1.5 border-b border-hairline py-3">
      <Clipped text={document.title} className="font-semibold" />
      <p className="flex flex-wrap gap-x-3 text-small text-soft">
        <span>{when(document.created_at)}</span>
        <span className="font-mono">{counted(document.pages, 'page')}</span>
        {document.bytes ? <span className="font-mono">{bytes(document.bytes)}</span> : null}
        <span>{kindWords(document)}</span>
        {document.locked && <span>opens by password</span>}
        {document.conformance && <span className="font-mono">{document.conformance}</span>}
      </p>
      {document.remarks.map((remark) => (
        <p key={remark} role="status" className="border-l-3 border-ink pl-3 text-small">
          {remark}
        </p>
      ))}
      {isSaid(document.original) && <p className="text-small">{originalWords(document.original)}</p>}
      {document.state === 'bound' ? (
        <div className="flex flex-wrap gap-2">
          <Button asChild size="small">
            <a href={`/api/v1/documents/${document.id}/file`} download aria-label={`Download ${document.title}`}>
              Download
            </a>
          </Button>
          {(document.kind !== 'export' || document.suffix === '.pdf') && (
            <Button asChild size="small">
              <a
                href={`/api/v1/documents/${document.id}/file?inline=true`}
                target="_blank"
                rel="noreferrer"
                aria-label={`Open ${document.title} to read or print it`}
              >
                Open
              </a>
            </Button>
          )}
          {document.kind !== 'export' && (
            <Button size="small" aria-label={`What was checked of ${document.title}`} onClick={onShow}>
              Checked
            </Button>
          )}
          {document.kind === 'archive' && (
            <Button asChild size="small">
              <a
                href={`/api/v1/presentation/documents/${document.id}/manifest`}
                aria-label={`IIIF manifest of ${document.title}`}
              >
                IIIF
              </a>
            </Button>
          )}
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
        <output>
          {document.kind === 'archive' ? 'Binding' : 'Making'} {counted(document.pages, 'page')} …
        </output>
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

/** Every clause that was checked, with what was found. */
function CheckedSheet({ document, onClose }: { document: BoundDocument | undefined; onClose: () => void }) {
  const { data, error, refetch } = useQuery({ ...documentQuery(document?.id ?? 0), enabled: !!document });
  return (
    <Sheet open={!!document} onOpenChange={(open) => open || onClose()} title={`Checked: ${document?.title}`} wide>
      {data ? (
        <div className="flex flex-col gap-3">
          <p>
            {data.kind === 'access'
              ? 'The copy was opened again as it lies on the disk, by a reader of its own, before anybody could fetch it.'
              : data.checked.length
                ? `All ${data.checked.length} clauses of ISO 19005 that can touch this file hold. It was checked as it lies on the disk, before anybody could fetch it.`
                : 'This document was bound before every file was checked: bind it again to have it checked.'}
          </p>
          <p className="text-small break-all text-soft">
            SHA-256 <span className="font-mono">{data.sha256}</span>
          </p>
          <table className="w-full text-small">
            <thead>
              <tr className="text-left text-soft">
                <th className="py-1 pr-4 font-normal">{data.kind === 'access' ? 'Of' : 'Clause'}</th>
                <th className="py-1 pr-4 font-normal">What was checked</th>
                <th className="py-1 font-normal">Result</th>
              </tr>
            </thead>
            <tbody>
              {data.checked.map(({ clause, what, faults }) => (
                <tr key={`${clause} ${what}`} className="border-t border-hairline align-top">
                  <td className="py-1 pr-4 font-mono">{clause}</td>
                  <td className="py-1 pr-4">{what}</td>
                  <td className="py-1">{faults?.length ? faults.join(' ') : '✓ holds'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : error ? (
        <Failed message={error.message} retry={() => refetch()} />
      ) : (
        <Loading label="Loading what was checked" className="h-40" />
      )}
    </Sheet>
  );
}
