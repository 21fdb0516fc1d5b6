import { ContextMenu } from 'radix-ui';
import type { ReactElement } from 'react';
import { type Command, SUBJECTS } from '@/engine/keys/registry';
import { floor } from './floor';
import { Key } from './Key';

/** The commands that go with a thing, where the pointer is; the same as by key. */
export function Menu({ commands, children }: { commands: readonly Command[]; children: ReactElement }) {
  const groups = SUBJECTS.map((subject) => commands.filter((command) => command.subject === subject)).filter(
    ({ length }) => length > 0,
  );
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal container={floor()}>
        <ContextMenu.Content className="z-50 max-h-(--radix-context-menu-content-available-height) min-w-64 overflow-y-auto rounded-md border border-control bg-panel p-1 text-ink shadow-lifted">
          {groups.map((group, at) => (
            <ContextMenu.Group key={group[0]?.subject} className={at ? 'mt-1 border-t border-hairline pt-1' : ''}>
              {group.map((command) => (
                <ContextMenu.Item
                  key={command.name}
                  disabled={command.enabled === false}
                  onSelect={command.perform}
                  className="flex min-h-8 cursor-default items-center justify-between gap-6 rounded-sm px-2 outline-none select-none data-[disabled]:text-soft data-[highlighted]:bg-accent data-[highlighted]:text-on-accent"
                >
                  {command.label}
                  {command.key && <Key of={command.key} shown={command.shown} />}
                </ContextMenu.Item>
              ))}
            </ContextMenu.Group>
          ))}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
