import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation } from 'wouter';
import { languagesQuery, useDeleteStack, useMay } from '@/api/people';
import { treatmentsQuery } from '@/api/treatments';
import type { DocumentsAfter, Doing, Stack } from '@/api/types';
import { Button } from '@/ui/Button';
import { notify } from '@/ui/Notices';
import { Select } from '@/ui/Select';
import { counted } from '@/words/figures';

const AFTER: { value: DocumentsAfter; label: string; means: string }[] = [
  {
    value: 'separator sheets',
    label: 'separator sheets',
    means: 'A new document begins behind each printed separator sheet, and where you set a break.',
  },
  {
    value: 'blank pages',
    label: 'separators and blank pages',
    means: 'Every blank page begins one too: for sheets captured on one side.',
  },
  {
    value: 'blank sheets',
    label: 'separators and blank sheets',
    means: 'A sheet that is blank on both sides begins one too: for sheets captured on both sides.',
  },
];

/** What becomes of the stack's pages: its treatment, and where documents begin. */
export type StackPanelProps = { stack: Stack; onChange: (doing: Doing) => void };

export function StackPanel({ stack, onChange }: StackPanelProps) {
  const may = useMay('work');
  const { data: known = [] } = useQuery(treatmentsQuery);
  const treatments = known.filter(({ offered, name }) => offered || name === stack.treatment);
  const chosen = treatments.find(({ name }) => name === stack.treatment);
  const after = AFTER.find(({ value }) => value === stack.new_document_after);
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto p-4">
      <section aria-label="Treatment" className="flex flex-col gap-1">
        <Select
          label="Treatment"
          value={stack.treatment}
          options={(treatments.length ? treatments : [{ name: stack.treatment }]).map(({ name }) => ({
            value: name,
            label: name,
          }))}
          onChange={(treatment) => onChange({ do: 'treat', treatment })}
        />
        <p className="text-small">{chosen?.purpose}</p>
        <p className="flex items-center justify-between text-small text-soft">
          {stack.treatment_version === 0 ? 'As it comes with the program.' : `Version ${stack.treatment_version}.`}
          <Link href={`/treatments/${encodeURIComponent(stack.treatment)}`} className="underline">
            Look at its settings
          </Link>
        </p>
        {chosen?.offered && chosen.version !== stack.treatment_version && (
          <Button onClick={() => onChange({ do: 'treat', treatment: chosen.name })}>
            {chosen.version === 0 ? 'Use it as it comes with the program' : `Use version ${chosen.version}`}
          </Button>
        )}
        <p className="text-small text-soft">
          All pages are worked through anew; what is known of them already is kept.
        </p>
      </section>
      <section aria-label="Documents" className="flex flex-col gap-1">
        <Select
          label="A new document after"
          value={stack.new_document_after}
          options={AFTER}
          onChange={(new_document_after) => onChange({ do: 'treat', new_document_after })}
        />
        <p className="text-small">{after?.means}</p>
      </section>
      <Language stack={stack} onChange={onChange} />
      <section aria-label="Separator sheets" className="flex flex-col gap-1">
        <h2 className="text-small text-soft">Separator sheets to print</h2>
        <div className="flex gap-2">
          {['A4', 'A5', 'Letter'].map((paper) => (
            <Button key={paper} asChild className="flex-1">
              <a href={`/api/v1/separator-sheet?paper=${paper}`} download>
                {paper}
              </a>
            </Button>
          ))}
        </div>
      </section>
      {may && <DeleteStack stack={stack} />}
    </div>
  );
}

const NAMES = new Intl.DisplayNames('en', { type: 'language', fallback: 'code' });

/** In which languages the text is read: the main one, and others on the same pages. */
function Language({ stack, onChange }: StackPanelProps) {
  const { data: known = [] } = useQuery(languagesQuery);
  const read = stack.language.split('+');
  const offered = [...new Set([...read, ...known])];
  const change = (language: string, on: boolean) => {
    const next = on ? [...read, language] : read.filter((one) => one !== language);
    if (next.length) onChange({ do: 'read in', language: next.join('+') });
  };
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="mb-1 text-small text-soft">Languages of the text</legend>
      {offered.map((language) => (
        <label key={language} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={read.includes(language)}
            disabled={read.length === 1 && read[0] === language}
            onChange={(event) => change(language, event.target.checked)}
          />
          {NAMES.of(language) ?? language}
          {read.length > 1 && read[0] === language && <span className="text-small text-soft">first</span>}
        </label>
      ))}
    </fieldset>
  );
}

/** Asked once, because everything in it goes with it. */
function DeleteStack({ stack }: { stack: Stack }) {
  const [asked, setAsked] = useState(false);
  const [, go] = useLocation();
  const gone = () => {
    notify(`“${stack.name}” is in the bin for 30 days.`);
    go('/');
  };
  const deleting = useDeleteStack(gone);
  return (
    <section aria-label="Delete" className="mt-auto flex flex-col gap-2 border-t border-hairline pt-3">
      {asked ? (
        <>
          <p>
            Delete “{stack.name}” with {counted(stack.counts.pages, 'page')}? It can be taken back for 30 days.
          </p>
          <div className="flex gap-2">
            <Button disabled={deleting.isPending} onClick={() => deleting.mutate(stack.id)}>
              Delete
            </Button>
            <Button kind="quiet" onClick={() => setAsked(false)}>
              Keep it
            </Button>
          </div>
        </>
      ) : (
        <Button kind="quiet" className="self-start" onClick={() => setAsked(true)}>
          Delete the stack …
        </Button>
      )}
    </section>
  );
}
