import { useState } from 'react';
import type { Correction } from '@/api/bench';
import type { Doing, PageRow } from '@/api/types';
import { PARTS, type Part, partsOf, reach, SCOPES, type Scope } from '@/engine/bench/scopes';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Radios } from '@/ui/Radios';
import { counted, numbers } from '@/words/figures';

export type ApplyToProps = {
  page: PageRow;
  pages: readonly PageRow[];
  chosen: ReadonlySet<number>;
  own: Correction;
  change: (doing: Doing) => void;
  onLeave: () => void;
};

/** Which corrections of a page, on which other pages: counted before anything is done. */
export function ApplyTo({ page, pages, chosen, own, change, onLeave }: ApplyToProps) {
  const there = partsOf(Object.keys(own).filter((name) => own[name as keyof Correction] != null));
  const [parts, setParts] = useState<readonly Part[]>(there);
  const [scope, setScope] = useState<Scope>(chosen.size > 1 ? 'chosen' : page.number % 2 ? 'rectos' : 'versos');
  const [overOwn, setOverOwn] = useState(false);
  const reached = reach(scope, page, pages, chosen, parts);
  const spared = new Set(overOwn ? [] : reached.own.map(({ id }) => id));
  const on = reached.pages.filter(({ id }) => !spared.has(id));
  const use = () => {
    const fields = parts.flatMap((part) => PARTS[part].fields as readonly (keyof Correction)[]);
    const correction = Object.fromEntries(fields.map((field) => [field, own[field] ?? null])) as Correction;
    change({ do: 'correct', pages: on.map(({ id }) => id), correction });
    onLeave();
  };
  return (
    <form
      className="flex flex-col gap-4 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        use();
      }}
    >
      <h2 className="font-semibold">Apply to other pages</h2>
      <fieldset className="flex flex-col gap-1.5">
        <legend className="mb-1.5 text-small text-soft">From page {page.number}</legend>
        {there.map((part) => (
          <Check
            key={part}
            label={PARTS[part].label}
            value={parts.includes(part)}
            onChange={(on) => setParts(on ? [...parts, part] : parts.filter((one) => one !== part))}
          />
        ))}
      </fieldset>
      <fieldset>
        <legend className="mb-1.5 text-small text-soft">To</legend>
        <Radios
          label="To which pages"
          value={scope}
          onChange={setScope}
          // Whoever asks for it by key goes on by keys.
          focused
          options={(Object.keys(SCOPES) as Scope[]).map((one) => {
            const count = reach(one, page, pages, chosen, parts).pages.length;
            return {
              value: one,
              soft: count === 0,
              label: (
                <>
                  <span className="flex-1">{SCOPES[one]}</span>
                  <span className="font-mono">{count}</span>
                </>
              ),
            };
          })}
        />
      </fieldset>
      {reached.others > 0 && (
        <p className="text-soft">
          {counted(reached.others, 'page')} with images of another size {reached.others === 1 ? 'is' : 'are'} passed
          over: corners and borders would lie elsewhere on them.
        </p>
      )}
      {reached.own.length > 0 && (
        <div className="flex flex-col gap-1.5">
          <p>
            Corrected by hand already: {reached.own.length === 1 ? 'page' : 'pages'}{' '}
            <span className="font-mono">{numbers(reached.own)}</span>
          </p>
          <Check
            label={`Change ${reached.own.length === 1 ? 'it' : 'these'} too`}
            value={overOwn}
            onChange={setOverOwn}
          />
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        <Button
          type="submit"
          kind="main"
          why={parts.length === 0 ? 'Tick a correction above.' : on.length === 0 ? 'No page is reached.' : ''}
        >
          Apply to {counted(on.length, 'page')}
        </Button>
        <Button onClick={onLeave}>Leave as they are</Button>
      </div>
    </form>
  );
}
