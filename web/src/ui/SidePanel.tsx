import type { ReactNode } from 'react';
import { Guarded } from './Guarded';
import { Tabs } from './Tabs';

export type SidePanelProps<T extends string> = {
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange: (value: T) => void;
  children: ReactNode;
};

/** What stands beside the pages: one of a few panels, chosen on top. */
export function SidePanel<T extends string>({ label, value, options, onChange, children }: SidePanelProps<T>) {
  return (
    <aside aria-label={label} className="flex w-full shrink-0 flex-col border-l border-hairline bg-panel lg:w-80">
      <Tabs label="Beside the pages" value={value} options={options} onChange={onChange} className="flex-1">
        <Guarded key={value} what="This panel">
          {children}
        </Guarded>
      </Tabs>
    </aside>
  );
}
