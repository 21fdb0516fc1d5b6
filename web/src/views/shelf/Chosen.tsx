import { useState } from 'react';
import { useDeleteStack } from '@/api/people';
import { useCloseStacks } from '@/api/shelf';
import { notify } from '@/engine/notices';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Confirm } from '@/ui/Confirm';
import { counted } from '@/words/figures';
import { FileUnder } from './FileUnder';

export type ChosenProps = {
  chosen: ReadonlySet<number>;
  /** Whether closed ones are looked at. */
  closed: boolean;
  onChosen: (chosen: ReadonlySet<number>) => void;
};

/** What can be done with the stacks that are chosen; it stands where the head of the list stood, so that nothing moves. */
export function Chosen({ chosen, closed, onChosen }: ChosenProps) {
  const [filing, setFiling] = useState(false);
  const remove = useDeleteStack(() => undefined);
  const closing = useCloseStacks();
  const ids = [...chosen];
  const close = () =>
    closing.mutate(
      { stacks: ids, closed: !closed },
      {
        onSuccess: ({ changed }) => {
          notify(`${counted(changed, 'stack')} ${closed ? 'reopened' : 'closed'}.`);
          onChosen(new Set());
        },
      },
    );
  useCommands([
    {
      name: 'file',
      label: 'File the chosen stacks under a collection',
      key: 'Shift+u',
      subject: 'Order',
      perform: () => setFiling(true),
    },
    {
      name: 'close',
      label: closed ? 'Reopen the chosen stacks' : 'Close the chosen stacks',
      key: 'Shift+w',
      subject: 'Order',
      perform: close,
    },
  ]);
  const removeAll = async () => {
    const left = new Set(chosen);
    for (const id of ids) {
      // What is refused stays chosen, and the refusal is said.
      await remove.mutateAsync(id).then(
        () => left.delete(id),
        () => undefined,
      );
    }
    onChosen(left);
  };
  return (
    <section
      aria-label="Chosen stacks"
      className="sticky top-0 z-10 mb-1 flex min-h-9 flex-wrap items-center gap-2 rounded-md bg-accent-pale px-2"
    >
      <p role="status" className="mr-auto font-semibold">
        {counted(ids.length, 'stack')} chosen
      </p>
      <Button size="small" shortcut="Shift+U" onClick={() => setFiling(true)}>
        File under …
      </Button>
      <Button size="small" shortcut="Shift+W" disabled={closing.isPending} onClick={close}>
        {closed ? 'Reopen' : 'Close'}
      </Button>
      <Confirm
        question={`Delete ${counted(ids.length, 'stack')}?`}
        more="They lie in the bin for 30 days, with all their pages and documents, and can be taken back from there."
        action="Delete"
        onConfirm={removeAll}
      >
        <Button size="small" disabled={remove.isPending}>
          Delete …
        </Button>
      </Confirm>
      <Button size="small" kind="quiet" onClick={() => onChosen(new Set())}>
        Choose none
      </Button>
      {filing && (
        <FileUnder
          stacks={ids}
          onClose={() => {
            setFiling(false);
            onChosen(new Set());
          }}
        />
      )}
    </section>
  );
}
