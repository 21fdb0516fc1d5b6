import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation } from 'wouter';
import { languagesQuery, useDeleteStack, useMay } from '@/api/people';
import { useOriginal } from '@/api/queries';
import { useCloseStacks } from '@/api/shelf';
import { treatmentsQuery } from '@/api/treatments';
import type { Doing, Original, Stack } from '@/api/types';
import { notify } from '@/engine/notices';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Confirm } from '@/ui/Confirm';
import { Pop } from '@/ui/Pop';
import { Word, Written } from '@/ui/Word';
import { BEGINS, beginsOf } from '@/words/documents';
import { counted } from '@/words/figures';
import { languageWords } from '@/words/languages';
import { originalWords } from '@/words/original';
import { LanguageFields } from '../reading/LanguageFields';
import { AfterWord } from '../slips/AfterWord';
import { OriginalFields } from '../slips/OriginalFields';

export type StackLineProps = { stack: Stack; onChange: (doing: Doing) => void };

/** What becomes of the stack's pages, as the second half of the sentence. */
export function StackLine({ stack, onChange }: StackLineProps) {
  const { data: known = [] } = useQuery(treatmentsQuery);
  const treatments = known.filter(({ offered, name }) => offered || name === stack.treatment);
  const chosen = treatments.find(({ name }) => name === stack.treatment);
  const newer = chosen?.offered && chosen.version !== stack.treatment_version;
  return (
    <p className="mt-1.5 leading-7" data-testid="stack-line">
      Then{' '}
      <Word
        label="Treatment"
        value={stack.treatment}
        options={(treatments.length ? treatments : [{ name: stack.treatment }]).map(({ name }) => ({
          value: name,
          label: name,
        }))}
        onChange={(treatment) => onChange({ do: 'treat', treatment })}
      />{' '}
      corrects them; documents begin after{' '}
      <AfterWord rule={stack} onChange={(rule) => onChange({ do: 'treat', ...rule })} />; read as{' '}
      <Languages stack={stack} onChange={onChange} />; papers: <Papers stack={stack} />.{' '}
      <More stack={stack} purpose={chosen?.purpose ?? ''} />
      {newer && chosen && (
        <Button size="small" className="ml-2" onClick={() => onChange({ do: 'treat', treatment: chosen.name })}>
          {chosen.version === 0 ? 'Use it as supplied' : `Use version ${chosen.version} of it`}
        </Button>
      )}
    </p>
  );
}

/** Where the papers are, and what becomes of them: kept when what opens is closed. */
function Papers({ stack }: { stack: Stack }) {
  const keep = useOriginal(stack.id);
  const may = useMay('work');
  const [said, setSaid] = useState<Original>();
  const close = (open: boolean) => {
    if (open || !said) return;
    if (JSON.stringify(said) !== JSON.stringify(stack.original)) keep.mutate(said);
    setSaid(undefined);
  };
  if (!may) return originalWords(stack.original);
  return (
    <Written label="The papers" text={originalWords(said ?? stack.original)} onOpenChange={close}>
      <OriginalFields original={said ?? stack.original} onChange={setSaid} />
      <Link href={`/stacks/${stack.id}/cover-sheet`} className="mt-3 block text-accent underline">
        Cover sheet to print
      </Link>
    </Written>
  );
}

/** In which languages the text is read, and whether that is put off. */
function Languages({ stack, onChange }: StackLineProps) {
  const { data: known = [] } = useQuery(languagesQuery);
  const words = languageWords(stack.language, known);
  return (
    <Written label="Languages of the text" text={stack.read_later ? `${words}, later` : words}>
      <div className="flex flex-col gap-3">
        <LanguageFields
          value={stack.language}
          own={stack.own_language}
          otherwise="treatment"
          onChange={(language) => onChange({ do: 'read in', language, pages: null })}
        />
        <Check
          label="Put reading off"
          value={stack.read_later}
          onChange={(later) => onChange({ do: 'read later', later })}
        />
      </div>
    </Written>
  );
}

/** What is wanted seldom: what the treatment is for, separator sheets to print, deleting the stack. */
function More({ stack, purpose }: { stack: Stack; purpose: string }) {
  const may = useMay('work');
  const [, go] = useLocation();
  const closing = useCloseStacks();
  const deleting = useDeleteStack(() => {
    notify(`“${stack.name}” is in the bin for 30 days.`);
    go('/');
  });
  const after = BEGINS.find(({ value }) => value === beginsOf(stack));
  return (
    <Pop
      label="More about this stack"
      className="w-96"
      trigger={
        <button type="button" className="rounded-sm px-1 text-small text-soft underline hover:text-ink">
          More …
        </button>
      }
    >
      <div className="flex flex-col gap-4">
        <section aria-label="Treatment" className="flex flex-col gap-1">
          <h2 className="font-semibold">
            {stack.treatment}, {stack.treatment_version === 0 ? 'as supplied' : `version ${stack.treatment_version}`}
          </h2>
          <p>{purpose}</p>
          <p className="text-small text-soft">
            When it changes, all pages are processed again; what still applies is kept.{' '}
            <Link href={`/treatments/${encodeURIComponent(stack.treatment)}`} className="text-accent underline">
              Look at its settings
            </Link>
          </p>
        </section>
        <section aria-label="Documents" className="flex flex-col gap-2">
          <p>{after?.means}</p>
          <h2 className="text-small text-soft">Separator sheets to print</h2>
          <div className="flex gap-2">
            {['A4', 'A5', 'Letter'].map((paper) => (
              <Button key={paper} asChild size="small" spread="wide">
                <a href={`/api/v1/separator-sheet?paper=${paper}`} download>
                  {paper}
                </a>
              </Button>
            ))}
          </div>
        </section>
        {may && !stack.closed && (
          <Button
            kind="quiet"
            size="small"
            className="self-start"
            disabled={closing.isPending}
            onClick={() => closing.mutate({ stacks: [stack.id], closed: true })}
          >
            Close the stack: no changes until it is reopened
          </Button>
        )}
        {may && (
          <Confirm
            question={`Delete “${stack.name}”?`}
            more={`It holds ${counted(stack.counts.pages, 'page')}. It can be taken back from the bin for 30 days.`}
            action="Delete"
            onConfirm={() => deleting.mutate(stack.id)}
          >
            <Button kind="quiet" size="small" className="self-start" disabled={deleting.isPending}>
              Delete the stack …
            </Button>
          </Confirm>
        )}
      </div>
    </Pop>
  );
}
