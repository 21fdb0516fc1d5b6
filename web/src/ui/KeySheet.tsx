import { useState } from 'react';
import { type Command, sheetOf } from '@/engine/keys/registry';
import { INPUT } from './Field';
import { Sheet } from './Sheet';

export type KeySheetProps = { commands: readonly Command[]; open: boolean; onClose: () => void };

/** All keys of the view, by subject in columns; a field leaves those that hold a word. */
export function KeySheet({ commands, open, onClose }: KeySheetProps) {
  const [looked, setLooked] = useState('');
  const sheet = sheetOf(commands, looked);
  const close = () => {
    setLooked('');
    onClose();
  };
  const field = (
    <input
      type="search"
      aria-label="Find a key"
      placeholder="Find a key"
      value={looked}
      onChange={({ target }) => setLooked(target.value)}
      className={`${INPUT} w-56`}
    />
  );
  return (
    <Sheet open={open} onOpenChange={(on) => !on && close()} title="Keys" wide beside={field}>
      <div className="gap-10 sm:columns-2 lg:columns-3">
        {sheet.map(({ subject, entries }) => (
          <section key={subject} aria-label={subject} className="mb-5 break-inside-avoid">
            <h3 className="mb-1 font-semibold">{subject}</h3>
            <dl className="flex flex-col">
              {entries.map(({ label, keys, enabled }) => (
                <div
                  key={label}
                  className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-t border-hairline py-1"
                >
                  <dd className={`min-w-40 flex-1 ${enabled ? '' : 'text-soft'}`}>{label}</dd>
                  <dt className="ml-auto flex flex-wrap justify-end gap-1">
                    {keys.map((key) => (
                      <kbd
                        key={key}
                        className="min-w-6 rounded-sm border border-control px-1.5 text-center font-sans text-small"
                      >
                        {key}
                      </kbd>
                    ))}
                  </dt>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
      {sheet.length === 0 && <p role="status">No key holds “{looked}”.</p>}
    </Sheet>
  );
}
