import { useEffect, useRef, useState } from 'react';
import { INPUT } from './Field';
import { Tip } from './Tip';
import { Title } from './TopBar';

export type RenameProps = { name: string; may: boolean; onRename: (name: string) => void };

/** The name of what is looked at; pressed, it can be written anew. */
export function Rename({ name, may, onRename }: RenameProps) {
  const [written, setWritten] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  const dropped = useRef(false);
  const writing = written !== undefined;
  useEffect(() => {
    if (writing) field.current?.select();
  }, [writing]);
  if (!may) return <Title>{name}</Title>;
  if (!writing)
    return (
      <Title>
        <Tip text={name.length > 30 ? name : ''}>
          <button
            type="button"
            aria-description="Press to write another name"
            onClick={() => {
              dropped.current = false;
              setWritten(name);
            }}
            className="max-w-full cursor-text truncate rounded-md border border-transparent px-1.5 py-1 hover:border-control"
          >
            {name || '…'}
          </button>
        </Tip>
      </Title>
    );
  const keep = () => {
    const next = written.trim();
    if (!dropped.current && next && next !== name) onRename(next);
    setWritten(undefined);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <input
        ref={field}
        aria-label="Name of the stack"
        maxLength={200}
        value={written}
        onChange={({ target }) => setWritten(target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          dropped.current = true;
          setWritten(undefined);
        }}
        className={`${INPUT} w-full`}
      />
    </form>
  );
}
