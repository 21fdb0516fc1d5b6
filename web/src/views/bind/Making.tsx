import type { Binding, BindingChange, Counts } from '@/api/types';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Select } from '@/ui/Select';
import { forecastWords, PROFILES, shareWords } from '@/words/binding';
import { bytes, counted } from '@/words/figures';

export type MakingProps = { binding: Binding; say: (change: BindingChange) => void; may: boolean };

/** What the documents are made as. */
export function Making({ binding, say, may }: MakingProps) {
  const purpose = (of: readonly { name: string; purpose: string }[], chosen: string) =>
    of.find((one) => one.name === chosen)?.purpose;
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-col gap-1">
        <Select
          label="Made as"
          value={binding.profile}
          disabled={!may}
          options={binding.profiles.map((one) => ({
            value: one.name as Binding['profile'],
            label: PROFILES[one.name as Binding['profile']],
          }))}
          onChange={(profile) => say({ profile })}
        />
        <p className="min-h-10 text-small text-soft">{purpose(binding.profiles, binding.profile)}</p>
      </div>
      <div className="flex flex-col gap-1">
        <Select
          label="Kind of PDF/A"
          value={binding.flavour}
          disabled={!may}
          options={binding.flavours.map((one) => ({ value: one.name as Binding['flavour'], label: one.name }))}
          onChange={(flavour) => say({ flavour })}
        />
        <p className="min-h-10 text-small text-soft">{purpose(binding.flavours, binding.flavour)}</p>
      </div>
      <Check
        label="All pages as one document"
        value={binding.whole}
        disabled={!may}
        onChange={(whole) => say({ whole })}
      />
      <Check
        label="Bookmark headings"
        value={binding.mark_headings}
        disabled={!may}
        onChange={(mark_headings) => say({ mark_headings })}
      />
    </div>
  );
}

export type MakeProps = {
  binding: Binding;
  counts: Counts;
  documents: number;
  may: boolean;
  pending: boolean;
  onBind: () => void;
};

/** Why nothing can be made of the pages now; empty where it can. */
export function notYet(counts: Counts, may: boolean): string {
  const waiting = counts.pages - counts.ready - counts.aside - counts.failed;
  if (!may) return 'Only technicians and administrators bind.';
  if (waiting > 0) return `${counted(waiting, 'page')} still being worked on.`;
  return counts.ready === 0 ? 'There is no page to bind.' : '';
}

/** How large the documents are likely to be, and the making of them: always in view. */
export function Make({ binding, counts, documents, may, pending, onBind }: MakeProps) {
  const why = notYet(counts, may);
  return (
    <div className="flex shrink-0 flex-col gap-3 border-t border-hairline px-5 py-3">
      {counts.ready > 0 && <Forecast binding={binding} />}
      <Button
        kind="main"
        shortcut="⇧B"
        spread="between"
        className="min-h-11 self-stretch"
        disabled={pending}
        why={why}
        onClick={onBind}
      >
        {documents > 1 ? `Bind ${documents} documents` : `Bind as ${binding.flavour}`}
      </Button>
    </div>
  );
}

/** How large all of it is likely to be, beside what the masters take. */
function Forecast({ binding }: { binding: Binding }) {
  const { forecast, masters_bytes: masters } = binding;
  const share = forecast.bytes === null || !masters ? 0 : Math.min(1, forecast.bytes / masters);
  return (
    <section aria-label="Forecast" className="flex flex-col gap-1">
      <output className="truncate font-mono">{forecastWords(binding)}</output>
      <div className="h-2 bg-hover" aria-hidden="true">
        <div className="h-full bg-accent transition-[width]" style={{ width: `${Math.max(share * 100, 0.5)}%` }} />
      </div>
      <p className="flex justify-between gap-3 font-mono text-small text-soft">
        <span>{shareWords(forecast.bytes ?? 0, masters)}</span>
        <span>{bytes(masters)}</span>
      </p>
    </section>
  );
}
