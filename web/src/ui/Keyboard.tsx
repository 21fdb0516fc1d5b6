import { Suspense, useEffect, useRef, useState } from 'react';
import { type Command, commandFor } from '@/engine/keys/registry';
import { allCommands, useCommands } from '@/hooks/useCommands';
import { useFetched } from '@/hooks/useFetched';
import { Guarded } from './Guarded';
import { view } from './view';

const KeySheet = view(async () => (await import('./KeySheet')).KeySheet);
const Palette = view(async () => (await import('./Palette')).Palette);
const PARTS = [KeySheet, Palette];

/** Listens to the keys of all open views, and shows them: as a sheet on "?", and as a list to choose from on Ctrl+K. */
export function Keyboard({ places }: { places: readonly Command[] }) {
  const [shown, setShown] = useState<{ what: 'keys' | 'palette'; commands: Command[] }>();
  const show = (what: 'keys' | 'palette') => setShown({ what, commands: allCommands() });
  // What is typed while it is being fetched is meant for it, and for nothing else.
  const opening = useRef(false);
  opening.current = shown !== undefined;
  const typed = useRef('');
  useFetched(PARTS);
  useCommands([
    { name: 'keys', label: 'Show these keys', key: '?', subject: 'Go to', perform: () => show('keys') },
    {
      name: 'palette',
      label: 'Find a command or a view',
      key: 'Ctrl+k',
      subject: 'Go to',
      anywhere: true,
      perform: () => show('palette'),
    },
    ...places,
  ]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      // What lies over the view has its own keys, and has used them by now.
      if (event.defaultPrevented || document.querySelector(LAID_OVER)) return;
      if (opening.current) {
        if (isLetter(event)) {
          event.preventDefault();
          typed.current += event.key;
        }
        return;
      }
      const command = commandFor(allCommands(), event);
      if (!command) return;
      event.preventDefault();
      command.perform();
      requestAnimationFrame(keepFocus);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const close = () => {
    typed.current = '';
    setShown(undefined);
  };
  return (
    <Guarded what="What the keys do">
      <Suspense>
        {shown?.what === 'keys' && <KeySheet commands={shown.commands} open onClose={close} />}
        {shown?.what === 'palette' && (
          <Palette commands={shown.commands} typed={() => typed.current} open onClose={close} />
        )}
      </Suspense>
    </Guarded>
  );
}

/** What had the keyboard may be gone with what was done: then the view has it. */
function keepFocus(): void {
  if (document.activeElement === document.body) document.getElementById('main')?.focus({ preventScroll: true });
}

const isLetter = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent) =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey;

const LAID_OVER = '[role=dialog], [role=alertdialog], [role=menu], [data-radix-select-viewport]';
