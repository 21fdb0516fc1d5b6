import { useQuery } from '@tanstack/react-query';
import { collectionsQuery, useFileStacks } from '@/api/shelf';
import { notify } from '@/engine/notices';
import { Finder } from '@/ui/Finder';
import { Sheet } from '@/ui/Sheet';
import { counted } from '@/words/figures';
import { pathWords } from '@/words/shelf';

export type FileUnderProps = { stacks: readonly number[]; onClose: () => void };

const NOWHERE = 'nowhere';

/** Where stacks are to be filed: a word of the collection, then Enter. */
export function FileUnder({ stacks, onClose }: FileUnderProps) {
  const { data: collections = [] } = useQuery(collectionsQuery);
  const file = useFileStacks();
  const items = [
    ...collections.map(({ id, names }) => ({ id: String(id), text: pathWords(names) })),
    { id: NOWHERE, text: 'Nowhere' },
  ];
  const choose = (id: string) => {
    const collection = id === NOWHERE ? null : Number(id);
    const where = items.find((item) => item.id === id)?.text ?? '';
    file.mutate(
      { stacks: [...stacks], collection },
      {
        onSuccess: ({ filed }) => {
          notify(
            collection === null
              ? `${counted(filed, 'stack')} filed nowhere now.`
              : `${counted(filed, 'stack')} filed under ${where}.`,
          );
          onClose();
        },
      },
    );
  };
  return (
    <Sheet open onOpenChange={onClose} title={`File ${counted(stacks.length, 'stack')} under …`}>
      <Finder label="Find a collection" items={items} onChoose={choose} />
    </Sheet>
  );
}
