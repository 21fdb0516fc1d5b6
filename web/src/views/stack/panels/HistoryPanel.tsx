import { useQuery } from '@tanstack/react-query';
import { historyQuery } from '@/api/queries';
import type { Change } from '@/api/types';
import { Button } from '@/ui/Button';
import { Loading } from '@/ui/States';
import { count, when } from '@/words/figures';

export type HistoryPanelProps = { stackId: number; busy: boolean; onTurn: (way: 'undo' | 'redo') => void };

const STANDING: Record<Change['state'], string> = { done: '', undone: 'undone', dropped: 'undone, cannot be redone' };

/** What was done to the stack by hand, the last first, and the way back. */
export function HistoryPanel({ stackId, busy, onTurn }: HistoryPanelProps) {
  const { data, error } = useQuery(historyQuery(stackId));
  return (
    <div className="flex min-h-0 flex-col gap-3 p-4">
      <div className="grid grid-cols-2 gap-2">
        <Button
          size="small"
          spread="between"
          shortcut="z"
          disabled={busy || !data?.undo}
          onClick={() => onTurn('undo')}
        >
          Undo
        </Button>
        <Button
          size="small"
          spread="between"
          shortcut="y"
          disabled={busy || !data?.redo}
          onClick={() => onTurn('redo')}
        >
          Redo
        </Button>
      </div>
      {error && <p role="alert">{error.message}</p>}
      {data ? (
        <>
          <ol aria-label="History" className="flex flex-col">
            {data.changes.map((row) => (
              <li
                key={row.id}
                aria-current={row.id === data.undo ? 'step' : undefined}
                className={`flex flex-col border-t border-hairline py-2 pl-3 ${row.id === data.undo ? 'border-l-3 border-l-accent' : ''} ${row.state === 'done' ? '' : 'text-soft'}`}
              >
                <span className={row.state === 'done' ? '' : 'line-through'}>{row.what}</span>
                <span className="text-small text-soft">
                  {[row.by, when(row.at), STANDING[row.state]].filter(Boolean).join(' · ')}
                </span>
              </li>
            ))}
          </ol>
          {data.changes.length < data.count && (
            <p className="text-small text-soft">
              {count(data.count - data.changes.length)} before these are not listed; undo reaches them, too.
            </p>
          )}
        </>
      ) : (
        !error && <Loading label="Loading the history" className="h-24" />
      )}
    </div>
  );
}
