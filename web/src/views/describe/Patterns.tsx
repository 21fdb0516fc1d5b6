import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { patternsQuery, trialQuery, usePatterns } from '@/api/offers';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { LinePicture } from '@/ui/LinePicture';
import { Sheet } from '@/ui/Sheet';
import { Cross } from '@/ui/signs';
import { counted } from '@/words/figures';

export type PatternsProps = { stackId: number; may: boolean; onClose: () => void };

/** How identifiers are written: an example makes a pattern, which is seen, tried on the stack, and kept. */
export function Patterns({ stackId, may, onClose }: PatternsProps) {
  const { data: kept = [] } = useQuery(patternsQuery);
  const { keep, remove } = usePatterns();
  const [example, setExample] = useState('');
  const [own, setOwn] = useState<string>();
  const asked = { example: useDeferredValue(example), pattern: useDeferredValue(own ?? '') };
  const { data: trial, error } = useQuery(trialQuery(stackId, asked));
  const typed = example.trim() !== '' || (own ?? '').trim() !== '';
  const pattern = own ?? trial?.pattern ?? '';
  return (
    <Sheet open onOpenChange={onClose} title="How identifiers are written">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!trial || error) return;
          keep.mutate(pattern, {
            onSuccess: () => {
              setExample('');
              setOwn(undefined);
            },
          });
        }}
      >
        <Field
          label="An example"
          placeholder="SL/27/114"
          maxLength={200}
          autoFocus
          value={example}
          onChange={({ target }) => {
            setExample(target.value);
            setOwn(undefined);
          }}
        />
        <Field
          label="Its pattern"
          help="# stands for any figures, @ for any letters, all else for itself."
          maxLength={80}
          value={typed ? pattern : ''}
          wrong={typed && error ? error.message : undefined}
          onChange={({ target }) => setOwn(target.value)}
        />
        <p role="status" className="text-small text-soft">
          {typed && trial && !error
            ? `${counted(trial.count, 'identifier')} on the first ${counted(trial.pages, 'page')} of this stack`
            : ''}
        </p>
        {typed && trial && !error && trial.found.length > 0 && (
          <ul aria-label="What it finds" className="flex flex-col gap-1.5">
            {trial.found.map((one) => (
              <li key={one.value} className="flex items-center gap-3">
                <span className="w-28 shrink-0 truncate font-mono text-small">{one.value}</span>
                <span className="min-w-0">
                  <LinePicture
                    clean={one.clean}
                    size={one.size_px}
                    line={one.line}
                    marks={[one.box]}
                    text={one.text}
                    high={28}
                  />
                </span>
              </li>
            ))}
          </ul>
        )}
        {may && (
          <div>
            <Button kind="main" type="submit" disabled={!typed || !trial || !!error || keep.isPending}>
              Keep the pattern
            </Button>
          </div>
        )}
      </form>
      {kept.length > 0 && (
        <ul aria-label="Patterns that are kept" className="mt-5">
          {kept.map((one) => (
            <li key={one.id} className="flex min-h-9 items-center justify-between border-t border-hairline">
              <span className="font-mono">{one.pattern}</span>
              {may && (
                <Button
                  kind="quiet"
                  size="square"
                  aria-label={`Keep the pattern ${one.pattern} no longer`}
                  onClick={() => remove.mutate(one.id)}
                >
                  <Cross />
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}
