import type { ReactNode } from 'react';
import { Choice } from '../../parts/Choice';

export type Side = 'page' | 'arrange' | 'checks' | 'history';
export const NEXT_SIDE: Record<Side, Side> = { page: 'arrange', arrange: 'checks', checks: 'history', history: 'page' };
const NAMES: Record<Side, string> = { page: 'Measured', arrange: 'Arrange', checks: 'Checks', history: 'History' };

export type SidePanelProps = { side: Side; onSide: (side: Side) => void; children: ReactNode };

/** Beside the pages: the one that is looked at, what can be done, what is worth a look, or what was done. */
export function SidePanel({ side, onSide, children }: SidePanelProps) {
  return (
    <aside aria-label={NAMES[side]} className="flex w-[272px] shrink-0 flex-col border-l border-strong-line bg-board">
      <div className="flex h-12 shrink-0 items-center px-2">
        <Choice
          label="Beside the pages"
          value={side}
          onChange={onSide}
          options={[
            { value: 'page', label: 'Page' },
            { value: 'arrange', label: 'Arrange' },
            { value: 'checks', label: 'Checks' },
            { value: 'history', label: 'History' },
          ]}
        />
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">{children}</div>
    </aside>
  );
}
