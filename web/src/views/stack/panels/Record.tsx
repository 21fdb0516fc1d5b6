import { useState } from 'react';
import type { Former, MasterRecord as Known } from '@/api/types';
import { Fact, Facts } from '@/ui/Facts';
import { Sheet } from '@/ui/Sheet';
import { bytes, when } from '@/words/figures';

/** Who captured the page's master, when, with what and how. */
export function MasterRecord({ record }: { record: Known }) {
  return (
    <section aria-label="Master">
      <h3 className="mb-1 text-small text-soft">Master</h3>
      <Facts>
        {record.taken_at && <Fact label="Captured at" value={when(record.taken_at)} />}
        <Fact label="Added" value={`${when(record.came_at)}${record.by ? `, ${record.by}` : ''}`} />
        {record.device && <Fact label="Station" value={record.device} />}
        {record.settings.length > 0 && <Fact label="Settings asked for" value={record.settings.join(', ')} />}
        <Fact label="File" value={record.name} tip={record.name} />
        <Fact label="Size" value={bytes(record.bytes)} />
        <Fact label="SHA-256" value={`${record.sha256.slice(0, 12)}…`} tip={record.sha256} />
      </Facts>
    </section>
  );
}

/** Images that the page had before it was captured again; each can be looked at large. */
export function Formers({ formers }: { formers: readonly Former[] }) {
  const [shown, setShown] = useState<Former>();
  return (
    <section aria-label="Earlier images">
      <h3 className="mb-1 text-small text-soft">Earlier images</h3>
      <ul className="flex flex-wrap gap-2">
        {formers.map((former) => (
          <li key={former.replaced_at}>
            <button
              type="button"
              disabled={former.original === null}
              onClick={() => setShown(former)}
              className="flex w-28 flex-col gap-1 rounded-md border border-hairline bg-panel p-1.5 text-left text-small"
            >
              {former.original && (
                <img
                  src={`/thumbs/measure/${former.original}.webp`}
                  alt={`Earlier image, ${former.name}`}
                  className="max-h-24 self-center"
                />
              )}
              <span className="w-full truncate">{former.name}</span>
              <span className="text-soft">until {when(former.replaced_at)}</span>
            </button>
          </li>
        ))}
      </ul>
      <Sheet open={shown !== undefined} onOpenChange={() => setShown(undefined)} title={shown?.name ?? ''}>
        {shown?.original && (
          <img
            src={`/iiif/measure/${shown.original}/full/!960,960/0/default.jpg`}
            alt={`Earlier image, ${shown.name}, large`}
            className="mx-auto max-h-[60vh]"
          />
        )}
        <p className="mt-2 text-soft">It stays on record. Undoing the capture in the history brings it back.</p>
      </Sheet>
    </section>
  );
}
