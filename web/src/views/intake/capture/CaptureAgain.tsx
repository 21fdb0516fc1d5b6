import type { PageRow } from '@/api/types';
import { Button } from '@/ui/Button';

/** Pages that are marked for capture again; choosing one makes the next capture take its place. */
export function CaptureAgain({ pages, onPage }: { pages: readonly PageRow[]; onPage: (id: number) => void }) {
  const again = pages.filter((one) => one.rescan);
  if (again.length === 0) return null;
  return (
    <section aria-label="To capture again" className="shrink-0 border-t border-hairline p-4">
      <h2 className="text-small text-soft">To capture again, in place</h2>
      <ul className="mt-1 flex max-h-24 flex-wrap gap-1 overflow-y-auto">
        {again.map((one) => (
          <li key={one.id}>
            <Button className="h-7!" title={one.rescan} onClick={() => onPage(one.id)}>
              Page {one.number}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
