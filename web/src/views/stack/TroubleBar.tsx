import { useRetry } from '@/api/work';
import type { Troubled } from '@/engine/trouble';
import { Button } from '@/ui/Button';
import { counted, time } from '@/words/figures';

/** One line over the pages of a stack while some cannot be worked on: why, until when, and what can be done. */
export function TroubleBar({ stackId, trouble }: { stackId: number; trouble: Troubled }) {
  const retry = useRetry();
  const { waiting, failed, message, againAt } = trouble;
  return (
    <div
      role="status"
      className="flex shrink-0 flex-wrap items-center gap-3 border-b border-hairline bg-slip px-6 py-2"
    >
      <p className="min-w-0 flex-1 basis-72">
        <strong className="font-semibold">
          {waiting ? `${counted(waiting, 'page')} held up` : `${counted(failed, 'page')} failed`}
          {waiting > 0 && failed > 0 && `, ${failed} failed`}:
        </strong>{' '}
        {message} {againAt && <span className="text-soft">Tried again at {time(againAt)}.</span>}
      </p>
      <Button
        size="small"
        shortcut="Shift+f"
        disabled={retry.isPending}
        onClick={() => retry.mutate({ stack: stackId })}
      >
        Try again
      </Button>
    </div>
  );
}
