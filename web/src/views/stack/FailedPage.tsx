import { useRetry } from '@/api/work';
import { Button } from '@/ui/Button';
import { Empty } from '@/ui/States';

/** In the place of a page that failed: why, and another try. */
export function FailedPage({ id, error, title = 'This page failed' }: { id: number; error: string; title?: string }) {
  const retry = useRetry();
  return (
    <Empty title={title}>
      <p>{error}</p>
      <Button disabled={retry.isPending} onClick={() => retry.mutate({ page: id })}>
        Try again
      </Button>
    </Empty>
  );
}
