import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { collectionsQuery, useForgetView, viewsQuery } from '@/api/shelf';
import type { Shelf } from '@/api/types';
import { ALL, type ShelfAsked, STATES, searchOf, shelfAskedIn } from '@/engine/shelf/asked';
import { Button } from '@/ui/Button';
import { Cross } from '@/ui/signs';
import { count } from '@/words/figures';
import { AT_WORDS, pathWords } from '@/words/shelf';

export type AsideProps = {
  asked: ShelfAsked;
  onAsk: (some: Partial<ShelfAsked>) => void;
  /** How many stacks there are of each, once it is known. */
  shelf: Shelf | undefined;
};

/** What waits in the stacks, with how many there are of each. */
export function Waiting({ asked, onAsk, shelf }: AsideProps) {
  return (
    <Part title="What waits">
      {STATES.map((at) => (
        <Line
          key={at}
          label={AT_WORDS[at]}
          number={shelf?.at[at]}
          pressed={asked.at === at}
          onPress={() => onAsk({ at })}
        />
      ))}
    </Part>
  );
}

/** The tree of collections, each with how many stacks are under it. */
export function Collections({ asked, onAsk, shelf, children }: AsideProps & { children: ReactNode }) {
  const { data: collections = [] } = useQuery(collectionsQuery);
  const filed = collections.reduce((sum, one) => sum + one.filed, 0);
  return (
    <Part title="Collections" beside={children}>
      {collections.length > 0 && (
        <>
          <Line label="Everywhere" pressed={asked.collection === null} onPress={() => onAsk({ collection: null })} />
          {collections.map(({ id, name, names, stacks }) => (
            <Line
              key={id}
              label={name}
              spoken={pathWords(names)}
              deep={names.length}
              number={stacks}
              pressed={asked.collection === id}
              onPress={() => onAsk({ collection: id })}
            />
          ))}
          <Line
            label="Filed nowhere"
            number={shelf && Math.max(0, shelf.at.everything - filed)}
            pressed={asked.collection === 0}
            onPress={() => onAsk({ collection: 0 })}
          />
        </>
      )}
    </Part>
  );
}

/** Views that whoever looks has kept. */
export function KeptViews({ asked, onAsk }: Omit<AsideProps, 'shelf'>) {
  const { data: views = [] } = useQuery(viewsQuery);
  const forget = useForgetView();
  if (views.length === 0) return null;
  return (
    <Part title="Your views">
      {views.map((view) => (
        <Line
          key={view.id}
          label={view.name}
          pressed={view.asked === searchOf(asked)}
          onPress={() => onAsk({ ...ALL, ...shelfAskedIn(view.asked) })}
        >
          <Button
            kind="quiet"
            size="square"
            aria-label={`Keep the view ${view.name} no longer`}
            disabled={forget.isPending}
            onClick={() => forget.mutate(view.id)}
          >
            <Cross />
          </Button>
        </Line>
      ))}
    </Part>
  );
}

function Part({ title, beside, children }: { title: string; beside?: ReactNode; children: ReactNode }) {
  return (
    <section aria-label={title} className="mb-4">
      <div className="mb-1 flex min-h-8 items-center justify-between gap-2 pl-2">
        <h2 className="font-semibold">{title}</h2>
        {beside}
      </div>
      <ul>{children}</ul>
    </section>
  );
}

type LineProps = {
  label: string;
  /** What is heard in its place. */
  spoken?: string;
  /** Its level in the tree, from 1. */
  deep?: number;
  number?: number | undefined;
  pressed: boolean;
  onPress: () => void;
  children?: ReactNode;
};

function Line({ label, spoken, deep = 1, number, pressed, onPress, children }: LineProps) {
  return (
    <li className="flex items-center">
      <button
        type="button"
        aria-pressed={pressed}
        {...(spoken ? { 'aria-label': `${spoken}${number === undefined ? '' : ` ${count(number)}`}` } : {})}
        title={spoken ?? label}
        onClick={onPress}
        style={{ paddingLeft: `${0.5 + 0.75 * (deep - 1)}rem` }}
        className={`flex min-h-8 w-full min-w-0 items-center justify-between gap-3 rounded-md pr-2 text-left hover:bg-hover ${pressed ? 'bg-accent-pale font-semibold' : 'text-soft'}`}
      >
        <span className="truncate">{label}</span>
        <span className="font-mono text-small font-normal">{number === undefined ? '' : count(number)}</span>
      </button>
      {children}
    </li>
  );
}
