import { type DragEvent, useState } from 'react';
import { useLocation } from 'wouter';
import { post } from '@/api/client';
import type { Stack } from '@/api/types';
import { dropped, type Named, suggestedName } from '@/engine/uploads/files';
import { takeIn } from '@/engine/uploads/stackUploads';
import { useCommands } from '@/hooks/useCommands';
import { useFilePicker } from '@/hooks/useFilePicker';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { notify } from '@/ui/Notices';
import { TopBar } from '@/ui/TopBar';
import { bytes, counted, when } from '@/words/figures';

/** A new stack from files or a folder: choose, name, take in; every file shows how far it is. */
export function IntakeView({ user }: { user: string }) {
  const [, go] = useLocation();
  const [files, setFiles] = useState<Named[]>([]);
  const [name, setName] = useState('');
  const [starting, setStarting] = useState(false);

  const add = (more: Named[]) => {
    if (more.length === 0) return notify('There are no files in that: choose scans, or a folder of them.');
    setFiles([...files, ...more]);
    setName((named) => named || suggestedName(more));
  };
  const { inputs, chooseFiles, chooseFolder } = useFilePicker(add);
  const start = async () => {
    setStarting(true);
    try {
      const stack = await post<Stack>('/api/v1/stacks', { name });
      await takeIn(stack.id, files);
      go(`/stacks/${stack.id}/intake`);
    } catch (error) {
      notify((error as Error).message);
      setStarting(false);
    }
  };
  const fromStation = async () => {
    setStarting(true);
    try {
      const stack = await post<Stack>('/api/v1/stacks', {
        name: name.trim() || `Stack of ${when(new Date().toISOString())}`,
      });
      go(`/stacks/${stack.id}/intake`);
    } catch (error) {
      notify((error as Error).message);
      setStarting(false);
    }
  };
  useCommands([
    { name: 'station', label: 'Start with a station', key: 's', enabled: !starting, perform: fromStation },
    { name: 'files', label: 'Choose files', key: 'f', perform: chooseFiles },
    { name: 'folder', label: 'Choose a folder', key: 'd', perform: chooseFolder },
    {
      name: 'shelf',
      label: 'Back to the shelf',
      key: 'Escape',
      shown: 'Esc',
      perform: () => go('/'),
    },
  ]);

  return (
    <div className="flex h-full flex-col">
      <TopBar user={user} title="New stack" />
      <main className="mx-auto flex min-h-0 w-full max-w-[1000px] flex-1 flex-col gap-4 p-5">
        <DropPlace onDrop={add} compact={files.length > 0}>
          <Button onClick={chooseFiles}>Choose files …</Button>
          <Button onClick={chooseFolder}>Choose a folder …</Button>
          {files.length === 0 && (
            <Button disabled={starting} onClick={fromStation}>
              Start with a station …
            </Button>
          )}
        </DropPlace>
        {inputs}
        {files.length > 0 && (
          <>
            <div className="flex items-end gap-3">
              <Field
                label="Name of the stack"
                className="flex-1"
                maxLength={200}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <Button kind="main" disabled={starting || !name.trim()} onClick={start}>
                Take in {counted(files.length, 'file')}
              </Button>
            </div>
            <ul
              className="min-h-0 flex-1 overflow-y-auto rounded-md border border-hairline bg-panel"
              aria-label="Files to take in"
            >
              {files.map(({ file, name: path }, index) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: the same file may be chosen twice
                <li key={index} className="flex h-9 items-center gap-3 border-b border-hairline px-3">
                  <span className="w-10 shrink-0 text-right font-mono text-soft">{index + 1}</span>
                  <span className="min-w-0 flex-1 truncate" title={path}>
                    {path}
                  </span>
                  <span className="font-mono text-soft">{bytes(file.size)}</span>
                  <Button
                    kind="quiet"
                    aria-label={`Leave out ${path}`}
                    onClick={() => setFiles(files.filter((_, at) => at !== index))}
                  >
                    Leave out
                  </Button>
                </li>
              ))}
            </ul>
          </>
        )}
      </main>
    </div>
  );
}

function DropPlace({
  onDrop,
  compact,
  children,
}: {
  onDrop: (files: Named[]) => void;
  compact: boolean;
  children: React.ReactNode;
}) {
  const [over, setOver] = useState(false);
  const drop = async (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    onDrop(await dropped(event.dataTransfer.items));
  };
  return (
    <section
      aria-label="Drop files here"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`flex shrink-0 items-center justify-center gap-4 rounded-md border-2 border-dashed ${over ? 'border-accent bg-panel' : 'border-hairline'} ${compact ? 'h-20' : 'flex-1 flex-col'}`}
    >
      <div className={compact ? '' : 'text-center'}>
        <p className={compact ? 'text-body' : 'text-title'}>Drop files or a folder here</p>
        {!compact && (
          <p className="text-soft">TIFF, PNG, JPEG, JPEG 2000, WebP, BMP, PDF, or a ZIP of them; up to 2 GB each</p>
        )}
      </div>
      <div className="flex gap-2">{children}</div>
    </section>
  );
}
