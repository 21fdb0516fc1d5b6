import { Tooltip } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';

/** What a control, or a word that is cut short, means in full, under the pointer or the keyboard. */
export function Tip({ text, children }: { text: ReactNode; children: ReactElement }) {
  if (!text) return children;
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={6}
          collisionPadding={8}
          className="z-50 max-w-96 rounded-md bg-ink px-2.5 py-1.5 text-small break-words text-panel shadow-lifted"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** A name in one line: cut off where it is too long, and whole under the pointer. */
export function Clipped({ text, className = '' }: { text: string; className?: string }) {
  return (
    <Tip text={text}>
      <span className={`block min-w-0 truncate ${className}`}>{text}</span>
    </Tip>
  );
}

export const Tips = Tooltip.Provider;
