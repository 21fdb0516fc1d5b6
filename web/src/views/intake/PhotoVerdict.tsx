import { useRef } from 'react';
import type { Fault, PageRow } from '@/api/types';
import { notify } from '@/engine/notices';
import { takeIn } from '@/engine/uploads/stackUploads';
import { Button } from '@/ui/Button';
import { Spot, Spotted } from '@/ui/Spot';

export type PhotoVerdictProps = { page: PageRow; faults: readonly Fault[]; stackId: number };

/** Whether a photograph will do, with the spot that shows what is wrong, so that it can be taken again at once. */
export function PhotoVerdict({ page, faults, stackId }: PhotoVerdictProps) {
  const file = useRef<HTMLInputElement>(null);
  const retake = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      await takeIn(stackId, [{ file: chosen, name: chosen.name }], { instead: page.id });
    } catch (problem) {
      notify((problem as Error).message);
    }
  };
  const shown = faults.find(({ spot }) => spot);
  if (faults.length === 0)
    return (
      <section aria-label={`Verdict on ${page.source}`} className="flex items-center gap-3 pb-1 pl-15">
        <Spotted page={page} faults={faults} small />
        <p>Good: sharp, evenly lit, nothing cut off.</p>
      </section>
    );
  return (
    <section aria-label={`Verdict on ${page.source}`} className="flex gap-3 pt-1 pb-2 pl-15">
      <Spotted page={page} faults={faults} />
      {shown && <Spot page={page} fault={shown} />}
      <div className="flex min-w-0 flex-1 flex-col gap-1">
        <ul className="flex flex-col gap-1">
          {faults.map((fault) => (
            <li key={fault.check} className="border-l-3 border-ink pl-2.5">
              {fault.message}
            </li>
          ))}
        </ul>
        <div>
          <Button size="small" onClick={() => file.current?.click()}>
            Replace the photograph …
          </Button>
          <input
            ref={file}
            type="file"
            accept="image/*"
            hidden
            aria-label={`Another photograph in place of ${page.source}`}
            onChange={(event) => {
              retake(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </div>
      </div>
    </section>
  );
}
