import { type RefObject, useEffect, useState } from 'react';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { Key } from '@/ui/Key';

export type WordFormProps = {
  /** Names the word in hand: with another one the field begins anew. */
  word: string;
  read: string;
  suggestions: readonly string[];
  field: RefObject<HTMLInputElement | null>;
  /** What stands in the field. */
  onShown: (text: string) => void;
  onTake: (text: string, all: boolean) => void;
  onUnreadable: () => void;
  onNotText: () => void;
  onList: (text: string) => void;
  /** Why nothing can be put right; empty where it can. */
  why: string;
};

/** What was read, to be taken, chosen otherwise, or typed anew. */
export function WordForm(props: WordFormProps) {
  const { word, read, suggestions, field, onShown, onTake, onUnreadable, onNotText, onList, why } = props;
  const [text, setText] = useState(read);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another word that reads the same is another word
  useEffect(() => {
    setText(read);
    onShown(read);
  }, [word, read]);
  const set = (next: string) => {
    setText(next);
    onShown(next);
  };
  const taken = (all: boolean) => {
    field.current?.blur();
    onTake(text, all);
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        taken(false);
      }}
    >
      <div className="flex flex-wrap items-center gap-2">
        <input
          ref={field}
          aria-label="The word"
          value={text}
          disabled={why !== ''}
          onChange={(event) => set(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') {
              event.preventDefault();
              set(read);
              field.current?.blur();
            } else if (event.key === 'Enter' && event.shiftKey) {
              event.preventDefault();
              taken(true);
            }
          }}
          spellCheck={false}
          autoComplete="off"
          className={`${INPUT} min-h-11 max-w-72 text-title`}
        />
        <Button kind="quiet" onClick={() => onList(text)} disabled={why !== ''} shortcut="+">
          Put on the word list
        </Button>
      </div>
      {suggestions.length > 0 && (
        <ul aria-label="Suggestions" className="flex flex-wrap gap-2">
          {suggestions.map((one, at) => (
            <li key={one}>
              <Button onClick={() => onTake(one, false)} disabled={why !== ''} shortcut={String(at + 1)}>
                {one}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap gap-2">
        <Button kind="main" type="submit" disabled={why !== ''} aria-keyshortcuts="Enter">
          Take it <Key of="Enter" shown="↵" />
        </Button>
        <Button onClick={onUnreadable} disabled={why !== ''} shortcut="-">
          Cannot be read
        </Button>
        <Button onClick={onNotText} disabled={why !== ''} shortcut="Delete">
          Not text
        </Button>
      </div>
      {why && <p className="text-small text-soft">{why}</p>}
    </form>
  );
}
