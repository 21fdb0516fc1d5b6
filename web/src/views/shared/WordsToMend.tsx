import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { sharedWordsQuery, useMendShared } from '@/api/sharing';
import type { SharedWord } from '@/api/types';
import { Loading } from '@/ui/States';

export type WordsToMendProps = { secret: string; visit: string; page: number };

/** The words of a page, line by line, each to be pressed and typed anew. */
export function WordsToMend({ secret, visit, page }: WordsToMendProps) {
  const { data, error } = useQuery(sharedWordsQuery(secret, visit, page));
  const { word: mend } = useMendShared(secret, visit);
  const [typing, setTyping] = useState<string>();
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return <Loading label="Loading the words" className="h-10" />;
  if (data.lines.length === 0) return <p>No word was read on this page.</p>;
  return (
    <div className="flex flex-col gap-1 rounded-md bg-panel p-3 text-ink">
      {mend.error && <p role="alert">{mend.error.message}</p>}
      {data.lines.map((line) => (
        <p key={line.map(keyOf).join(' ')} className="flex flex-wrap items-center gap-x-1.5">
          {line.map((word) =>
            typing === keyOf(word) ? (
              <Typed
                key={keyOf(word)}
                word={word}
                onLeave={() => setTyping(undefined)}
                onKeep={(after) => {
                  setTyping(undefined);
                  mend.mutate({ page, body: { box: word.box, before: word.text, after } });
                }}
              />
            ) : (
              <button
                key={keyOf(word)}
                type="button"
                disabled={mend.isPending}
                onClick={() => setTyping(keyOf(word))}
                className={`min-h-6 rounded-sm px-0.5 hover:bg-hover ${word.unsure ? 'underline decoration-dotted underline-offset-3' : ''}`}
              >
                {word.text}
              </button>
            ),
          )}
        </p>
      ))}
    </div>
  );
}

const keyOf = ({ box }: SharedWord) => box.join(' ');

type TypedProps = { word: SharedWord; onKeep: (text: string) => void; onLeave: () => void };

/** A word being typed anew: kept by Enter, or when the field is left; Escape leaves it as it was. */
function Typed({ word, onKeep, onLeave }: TypedProps) {
  const [text, setText] = useState(word.text);
  const keep = () => (text.trim() && text.trim() !== word.text ? onKeep(text.trim()) : onLeave());
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: it stands where a press was
      autoFocus
      aria-label={`Instead of ${word.text}`}
      value={text}
      maxLength={400}
      size={Math.max(4, text.length + 1)}
      onChange={({ target }) => setText(target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') keep();
        if (event.key === 'Escape') onLeave();
      }}
      className="min-h-6 min-w-0 rounded-sm border border-control bg-panel px-0.5 text-ink"
    />
  );
}
