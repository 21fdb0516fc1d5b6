import type { ReactNode } from 'react';
import { useCommands } from '@/hooks/useCommands';
import { useView } from '@/hooks/useView';
import { Button } from '@/ui/Button';
import { TopBar } from '@/ui/TopBar';

export type PrintedSheetProps = {
  user: string;
  /** What it is: its heading on screen, and the name of the command that prints it. */
  what: string;
  title: string;
  /** What it is for, beside the button. */
  about: string;
  /** In its upper right corner. */
  beside?: ReactNode;
  children: ReactNode;
};

/** A sheet to be printed, as it will lie on paper. */
export function PrintedSheet({ user, what, title, about, beside, children }: PrintedSheetProps) {
  const main = useView<HTMLElement>(`${title}, ${what.toLowerCase()}`);
  const print = () => window.print();
  useCommands([
    { name: 'print', label: `Print the ${what.toLowerCase()}`, key: 'p', subject: 'Go to', perform: print },
    { name: 'back', label: 'Back', key: 'Escape', subject: 'Go to', perform: () => window.history.back() },
  ]);
  return (
    <div className="flex min-h-full flex-col">
      <div className="print:hidden">
        <TopBar user={user} />
        <div className="flex items-center gap-3 border-b border-hairline bg-panel px-6 py-3">
          <p className="mr-auto">{about}</p>
          <Button kind="main" shortcut="p" onClick={print}>
            Print
          </Button>
        </div>
      </div>
      <main
        ref={main}
        id="main"
        tabIndex={-1}
        className="mx-auto my-6 w-[190mm] max-w-full bg-paper p-[18mm] text-surround-ink outline-none print:my-0"
      >
        <div className="flex items-start justify-between gap-6">
          <div className="min-w-0">
            <p className="text-small">{what}</p>
            <h1 className="text-display font-semibold wrap-break-word">{title}</h1>
          </div>
          {beside}
        </div>
        {children}
      </main>
    </div>
  );
}
