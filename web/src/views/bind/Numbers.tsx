import { useState } from 'react';
import type { DraftLabels, PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { STYLES, type Style } from '@/words/binding';

export type NumbersProps = {
  page: PageRow;
  /** All pages that are bound, by which runs are named. */
  pages: readonly PageRow[];
  runs: readonly DraftLabels[];
  may: boolean;
  onSay: (runs: DraftLabels[]) => void;
};

/** How pages are numbered for readers: in runs, each from a page on. */
export function Numbers({ page, pages, runs, may, onSay }: NumbersProps) {
  const here = runs.find((run) => run.page === page.id);
  const [style, setStyle] = useState<Style>(here?.style ?? 'arabic');
  const [prefix, setPrefix] = useState(here?.prefix ?? '');
  const [first, setFirst] = useState(String(here?.first ?? 1));
  const number = Number(first);
  const wrong = Number.isInteger(number) && number >= 1 && number <= 100_000 ? '' : 'A number from 1 up.';
  const byId = new Map(pages.map((one) => [one.id, one]));
  const placed = runs.flatMap((run) => {
    const begins = byId.get(run.page);
    return begins ? [{ run, begins }] : [];
  });
  placed.sort((one, other) => one.begins.number - other.begins.number);
  const others = runs.filter((run) => run.page !== page.id);
  return (
    <div className="flex flex-col gap-4 px-4 py-4">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!wrong) onSay([...others, { page: page.id, style, prefix, first: number }]);
        }}
      >
        <h3 className="font-semibold">From page {page.number} on</h3>
        <Select label="Numbered" value={style} options={STYLES} onChange={setStyle} disabled={!may} />
        <Field
          label="Prefix"
          value={prefix}
          maxLength={40}
          disabled={!may}
          onChange={({ target }) => setPrefix(target.value)}
        />
        <Field
          label={style === 'leaves' ? 'First leaf' : 'First number'}
          inputMode="numeric"
          value={first}
          disabled={!may || style === 'text'}
          wrong={wrong}
          onChange={({ target }) => setFirst(target.value)}
        />
        <Button type="submit" disabled={!may || !!wrong} className="self-start">
          Number from here
        </Button>
      </form>
      {placed.length > 0 ? (
        <ul aria-label="Runs of numbers" className="flex flex-col">
          {placed.map(({ run, begins }) => (
            <li key={run.page} className="flex items-center gap-2 border-t border-hairline py-1.5">
              <span className="flex-1">
                From page {begins.number}:{' '}
                <span className="font-mono">{STYLES.find((one) => one.value === run.style)?.label}</span>
              </span>
              <Button
                kind="quiet"
                size="small"
                disabled={!may}
                aria-label={`Forget the numbers from page ${begins.number}`}
                onClick={() => onSay(runs.filter((one) => one !== run))}
              >
                Forget
              </Button>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-small text-soft">Each document is numbered 1, 2, 3 from its first page.</p>
      )}
    </div>
  );
}
