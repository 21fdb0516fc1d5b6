import type { Command } from '@/engine/keys/registry';
import { Finder, type Found } from './Finder';
import { Key } from './Key';
import { Sheet } from './Sheet';

export type PaletteProps = {
  commands: readonly Command[];
  /** What was typed before it was there. */
  typed: () => string;
  open: boolean;
  onClose: () => void;
};

/** Everything that can be done here, and everywhere one can go, by name. */
export function Palette({ commands, typed, open, onClose }: PaletteProps) {
  const items: Found[] = [];
  const byLabel = new Map<string, Command>();
  for (const command of commands) {
    if (command.enabled === false || command.name === 'palette' || byLabel.has(command.label)) continue;
    byLabel.set(command.label, command);
    items.push({
      id: command.label,
      text: `${command.label} ${command.subject}`,
      shown: (
        <>
          <span className="min-w-0 flex-1 truncate">{command.label}</span>
          <span className="text-small opacity-80">{command.subject}</span>
          <span className="flex w-14 justify-end">{command.key && <Key of={command.key} shown={command.shown} />}</span>
        </>
      ),
    });
  }
  return (
    <Sheet open={open} onOpenChange={(on) => !on && onClose()} title="Find a command or a view">
      <Finder
        label="Type what you want to do"
        items={items}
        typed={typed()}
        onChoose={(label) => {
          onClose();
          // The view behind has the focus back before anything is done in it.
          setTimeout(() => byLabel.get(label)?.perform());
        }}
      />
    </Sheet>
  );
}
