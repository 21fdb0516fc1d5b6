import { Link } from 'wouter';
import type { PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { Tip } from '@/ui/Tip';

export type RecaptureProps = { stackId: number; pages: readonly PageRow[]; onPage: (id: number) => void };

/** Pages that are marked to be captured again; choosing one makes the next capture take its place. */
export function Recapture({ stackId, pages, onPage }: RecaptureProps) {
  const again = pages.filter((one) => one.rescan);
  if (again.length === 0) return null;
  return (
    <section aria-label="To recapture" className="mt-2 flex max-h-20 flex-wrap items-center gap-1.5 overflow-y-auto">
      <h2 className="mr-1 text-small text-soft">To recapture, in place</h2>
      {again.map((one) => (
        <Tip key={one.id} text={one.rescan}>
          <Button size="small" onClick={() => onPage(one.id)}>
            Page {one.number}
          </Button>
        </Tip>
      ))}
      <Link href={`/stacks/${stackId}/rescan-slip`} className="ml-1 flex min-h-7 items-center text-small underline">
        Rescan slip to print
      </Link>
    </section>
  );
}
