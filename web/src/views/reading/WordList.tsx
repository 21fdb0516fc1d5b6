import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { wordListQuery } from '@/api/reading';
import { Button } from '@/ui/Button';
import { Pop } from '@/ui/Pop';
import { count, counted } from '@/words/figures';

export type WordListProps = {
  stackId: number;
  stackName: string;
  change: number;
  /** Why it cannot be changed; empty where it can. */
  why: string;
  onSave: (words: string[]) => void;
};

/** The stack's own words: edited a word a line, taken from a file, fetched as one. */
export function WordList({ stackId, stackName, change, why, onSave }: WordListProps) {
  const { data = [] } = useQuery(wordListQuery(stackId, change));
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const show = (next: boolean) => {
    setOpen(next);
    if (next) setText(data.join('\n'));
  };
  const words = linesOf(text);
  const read = async (chosen: FileList | null) => {
    const added = await chosen?.[0]?.text();
    if (added !== undefined) setText([...new Set([...words, ...linesOf(added)])].join('\n'));
  };
  const save = () => {
    const address = URL.createObjectURL(new Blob([`${words.join('\n')}\n`], { type: 'text/plain' }));
    const link = Object.assign(document.createElement('a'), { href: address, download: `${stackName}, word list.txt` });
    link.click();
    URL.revokeObjectURL(address);
  };
  return (
    <Pop
      label="Word list"
      open={open}
      onOpenChange={show}
      trigger={
        <Button size="small">
          Word list <span className="font-mono">{count(data.length)}</span>
        </Button>
      }
      className="w-96"
    >
      <div className="flex flex-col gap-3">
        <p className="text-small text-soft">Names and words of this stack. They are no doubts when they are read.</p>
        <label className="flex flex-col gap-1 text-small text-soft">
          One word a line
          <textarea
            value={text}
            disabled={why !== ''}
            onChange={(event) => setText(event.target.value)}
            rows={10}
            spellCheck={false}
            className="resize-y rounded-md border border-control bg-panel p-2 font-mono text-body text-ink"
          />
        </label>
        <div className="flex flex-wrap gap-2">
          <Button
            kind="main"
            disabled={why !== '' || words.join('\n') === data.join('\n')}
            onClick={() => {
              onSave(words);
              setOpen(false);
            }}
          >
            Save {counted(words.length, 'word')}
          </Button>
          <Button onClick={() => file.current?.click()} disabled={why !== ''}>
            Add from a file
          </Button>
          <Button onClick={save} disabled={words.length === 0}>
            Save as a file
          </Button>
        </div>
        {why && <p className="text-small text-soft">{why}</p>}
        <input
          ref={file}
          type="file"
          accept=".txt,text/plain"
          hidden
          aria-label="Word list file"
          onChange={(event) => {
            void read(event.target.files);
            event.target.value = '';
          }}
        />
      </div>
    </Pop>
  );
}

const linesOf = (text: string): string[] => [
  ...new Set(
    text
      .split(/\r?\n/)
      .map((line) => line.trim())
      .filter(Boolean),
  ),
];
