import type { ReactNode } from 'react';
import { Choice } from './Choice';

export type SidePanelProps<T extends string> = {
  label: string;
  value: T;
  options: { value: T; label: string }[];
  onChange: (value: T) => void;
  children: ReactNode;
};

/** What stands beside the pages: one of a few panels, chosen on top. */
export function SidePanel<T extends string>({ label, value, options, onChange, children }: SidePanelProps<T>) {
  return (
    <aside aria-label={label} className="flex w-[272px] shrink-0 flex-col border-l border-hairline bg-ground">
      <div className="flex h-12 shrink-0 items-center px-2">
        <Choice label="Beside the pages" value={value} onChange={onChange} options={options} />
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">{children}</div>
    </aside>
  );
}
