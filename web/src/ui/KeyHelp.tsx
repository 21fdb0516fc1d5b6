import { useEffect, useState } from 'react';
import { type Command, commandFor, keyWords } from '@/engine/keys/registry';
import { allCommands } from '@/hooks/useCommands';
import { Sheet } from './Sheet';

/** Listens to the keys of all open views, and shows them on "?". */
export function KeyHelp() {
  const [shown, setShown] = useState<Command[]>();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      // An open sheet has its own Escape, and has used it by now.
      if (event.defaultPrevented || document.querySelector('[role=dialog]')) return;
      const commands = allCommands();
      const help = { name: 'help', label: 'Show these keys', key: '?', perform: () => setShown([...commands, help]) };
      const command = commandFor([...commands, help], event);
      if (!command) return;
      event.preventDefault();
      command.perform();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <Sheet open={shown !== undefined} onOpenChange={(open) => !open && setShown(undefined)} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2 text-base">
        {shown?.map((command) => (
          <div key={command.name} className="contents">
            <dt>
              <kbd className="inline-block min-w-7 rounded-md border border-strong-line bg-board px-2 text-center font-mono text-sm">
                {keyWords(command)}
              </kbd>
            </dt>
            <dd className={command.enabled === false ? 'text-soft-ink' : ''}>{command.label}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
