import { useQuery } from '@tanstack/react-query';
import { historyQuery } from '@/api/queries';
import type { Change } from '@/api/types';
import { Button } from '@/ui/Button';
import { Loading } from '@/ui/States';
import { when } from '@/words/figures';

export type HistoryPanelProps = {
  stackId: number;
  change: number;
  busy: boolean;
  onTurn: (way: 'undo' | 'redo') => void;
};

const STANDING: Record<Change['state'], string> = { done: '', undone: 'undone', dropped: 'undone for good' };

/** What was done to the stack by hand, the last first, and the way back. */
export function HistoryPanel({ stackId, change, busy, onTurn }: HistoryPanelProps) {
  const { data, error } = useQuery(historyQuery(stackId, change));
  return (
    <div className="flex min-h-0 flex-col gap-3 p-4">
      <div className="grid grid-cols-2 gap-1">
        <Button disabled={busy || !data?.undo} onClick={() => onTurn('undo')} className="justify-between!">
          Undo <kbd className="font-mono text-small text-soft">Z</kbd>
        </Button>
        <Button disabled={busy || !data?.redo} onClick={() => onTurn('redo')} className="justify-between!">
          Redo <kbd className="font-mono text-small text-soft">Y</kbd>
        </Button>
      </div>
      {error && <p role="alert">{error.message}</p>}
      {data ? (
        <ol aria-label="History" className="flex flex-col">
          {data.changes.map((row) => (
            <li
              key={row.id}
              aria-current={row.id === data.undo ? 'step' : undefined}
              className={`flex flex-col border-t border-hairline py-1.5 pl-2 ${row.id === data.undo ? 'border-l-2 border-l-accent' : ''} ${row.state === 'done' ? '' : 'text-soft'}`}
            >
              <span className={row.state === 'done' ? '' : 'line-through'}>{row.what}</span>
              <span className="text-small text-soft">
                {[row.by, when(row.at), STANDING[row.state]].filter(Boolean).join(' · ')}
              </span>
            </li>
          ))}
        </ol>
      ) : (
        <Loading label="Loading the history" className="h-24" />
      )}
    </div>
  );
}
