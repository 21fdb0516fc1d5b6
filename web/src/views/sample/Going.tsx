import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { Said } from '@/api/signing';
import type { PageRow, Sample, Then, Worst } from '@/api/types';
import { nextIn, saidOf } from '@/engine/inspect/sample';
import { CLASS_KEYS, goingCommands } from '@/engine/keys/sample';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { count, counted } from '@/words/figures';
import { CLASSES } from '@/words/sample';
import { Drawn } from './Drawn';
import { Pair } from './Pair';

export type GoingProps = {
  sample: Sample;
  pages: readonly PageRow[];
  may: boolean;
  deciding: boolean;
  onSaid: (said: Said) => void;
  onForget: (page: number) => void;
  onDecide: (then: Then) => void;
  /** Draws another sample instead. */
  onAgain: () => void;
  onPage: (id: number) => void;
  onLeave: () => void;
};

/** A sample as it is gone through: each page looked at once, decided by a key, and the lot by what they come to. */
export function Going(props: GoingProps) {
  const { sample, pages, may, deciding, onSaid, onForget, onDecide, onAgain, onPage, onLeave } = props;
  const byId = new Map(pages.map((page) => [page.id, page]));
  const [hand, setHand] = useState<number>();
  const current = hand !== undefined && sample.pages.includes(hand) ? hand : nextIn(sample, undefined);
  const page = current === undefined ? undefined : byId.get(current);
  const [asked, setAsked] = useState<Exclude<Worst, ''>>();
  const mark = useRef(onPage);
  useEffect(() => {
    mark.current = onPage;
  });
  useEffect(() => {
    if (current !== undefined) mark.current(current);
  }, [current]);

  const goTo = (id: number | undefined) => {
    setHand(id);
    setAsked(undefined);
  };
  const keep = (worst: Worst, note = '') => {
    if (!page) return;
    onSaid({ page: page.id, worst, note, seen: page.clean });
    goTo(nextIn(sample, page.id));
  };
  // What was drawn and is no longer in the output can never be looked at: then another sample is the only way on.
  const open = sample.left.length > 0;
  useCommands(
    goingCommands({
      page: page !== undefined && asked === undefined,
      may,
      say: (worst) => (worst ? setAsked(worst) : keep('')),
      takeBack: () => current !== undefined && onForget(current),
      step: (by) => {
        const at = current === undefined ? 0 : sample.pages.indexOf(current);
        goTo(sample.pages[Math.max(0, Math.min(sample.pages.length - 1, at + by))]);
      },
      accept: sample.may_accept && !deciding ? () => onDecide('accept') : undefined,
      giveBack: sample.may_reject && !deciding ? () => onDecide('return') : undefined,
      whole: sample.may_reject && !sample.everything && !deciding ? () => onDecide('whole') : undefined,
      leave: onLeave,
    }),
  );
  const look = sample.looks.find((one) => one.page === current);
  const said = current === undefined ? undefined : saidOf(sample, current);
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      {page ? (
        <Pair key={page.id} page={page} />
      ) : (
        <p className="flex-1 bg-surround p-8 text-surround-ink">This page is no longer in the stack.</p>
      )}
      <aside
        aria-label="What is said of it"
        className="flex w-full shrink-0 flex-col gap-4 overflow-y-auto border-l border-hairline px-5 py-4 lg:w-80"
      >
        <div className="flex items-baseline justify-between gap-3">
          <h2 className="font-semibold">
            {page ? `Page ${count(page.number)}` : 'No page'}
            <span className="ml-2 font-normal text-soft">
              {said === undefined ? (look ? 'changed since it was looked at' : '') : CLASSES[said].label}
            </span>
          </h2>
          <span className="font-mono text-small" data-testid="looked">
            {count(sample.pages.length - sample.left.length)} of {count(sample.pages.length)}
          </span>
        </div>
        {look?.note && said !== undefined && <p className="text-soft">{look.note}</p>}
        <div className="flex flex-col gap-1.5">
          <Button
            kind={open ? 'main' : 'plain'}
            shortcut="f"
            spread="between"
            disabled={!may || !page}
            onClick={() => keep('')}
          >
            Good
          </Button>
          {(['minor', 'major', 'critical'] as const).map((worst) => (
            <Button
              key={worst}
              shortcut={CLASS_KEYS[worst]}
              spread="between"
              disabled={!may || !page}
              pressed={asked === worst}
              onClick={() => setAsked(worst)}
            >
              {CLASSES[worst].label}
            </Button>
          ))}
          {asked && (
            <Note
              key={`${current} ${asked}`}
              worst={asked}
              onKeep={(note) => keep(asked, note)}
              onDrop={() => setAsked(undefined)}
            />
          )}
        </div>
        <p role="status" className="border-l-3 border-hairline pl-3">
          {sample.sentence}
        </p>
        {sample.gone > 0 && (
          <p role="alert" className="border-l-3 border-ink pl-3">
            {counted(sample.gone, 'page')} that {sample.gone === 1 ? 'was' : 'were'} drawn{' '}
            {sample.gone === 1 ? 'is' : 'are'} no longer in the output: draw another sample.{' '}
            <Button size="small" onClick={onAgain}>
              Choose another
            </Button>
          </p>
        )}
        <div className="flex flex-col gap-1.5">
          {sample.may_accept && (
            <Button
              kind="main"
              shortcut="d"
              spread="between"
              disabled={!may || deciding}
              onClick={() => onDecide('accept')}
            >
              Accept the lot
            </Button>
          )}
          {sample.may_reject && (
            <>
              {!sample.everything && (
                <Button shortcut="w" spread="between" disabled={!may || deciding} onClick={() => onDecide('whole')}>
                  Go through all pages
                </Button>
              )}
              <Button shortcut="r" spread="between" disabled={!may || deciding} onClick={() => onDecide('return')}>
                Back to the technician
              </Button>
            </>
          )}
        </div>
        <Drawn sample={sample} byId={byId} current={current} onPage={goTo} />
      </aside>
    </div>
  );
}

type NoteProps = { worst: Exclude<Worst, ''>; onKeep: (note: string) => void; onDrop: () => void };

/** What is wrong, in words; it may stay empty. */
function Note({ worst, onKeep, onDrop }: NoteProps) {
  const [note, setNote] = useState('');
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const type = (event: KeyboardEvent) => {
    if (event.key === 'Enter') onKeep(note);
    else if (event.key === 'Escape') onDrop();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="flex flex-col gap-1.5">
      <input
        ref={field}
        aria-label={`What is wrong: ${CLASSES[worst].label.toLowerCase()}`}
        placeholder="What is wrong (may stay empty)"
        value={note}
        maxLength={400}
        onChange={({ target }) => setNote(target.value)}
        onKeyDown={type}
        className={INPUT}
      />
      <Button size="small" shortcut="Enter" spread="between" onClick={() => onKeep(note)}>
        Keep, and on to the next
      </Button>
    </div>
  );
}
