import { useState } from 'react';
import type { Rule } from '@/engine/capture/slip';
import { Field } from '@/ui/Field';
import { Word, Written } from '@/ui/Word';
import { BEGINS, beginsOf, MOST_PAGES, ruleOf } from '@/words/documents';

/** What a new document begins after, as a piece of a sentence; pages that are counted have their number beside it. */
export function AfterWord({ rule, onChange }: { rule: Rule; onChange: (rule: Rule) => void }) {
  const begins = beginsOf(rule);
  const [written, setWritten] = useState<string>();
  const keep = () => {
    const pages = Number(written);
    if (Number.isInteger(pages) && pages >= 1 && pages <= MOST_PAGES && pages !== rule.pages_a_document)
      onChange(ruleOf(pages === 1 ? 'each page' : 'pages', pages));
    setWritten(undefined);
  };
  return (
    <>
      {begins === 'pages' && (
        <>
          every{' '}
          <Written
            label="Pages a document"
            text={String(rule.pages_a_document)}
            onOpenChange={(open) => !open && keep()}
          >
            <Field
              label="Pages a document"
              inputMode="numeric"
              value={written ?? String(rule.pages_a_document)}
              onChange={({ target }) => setWritten(target.value)}
              help="What is aside is not counted."
            />
          </Written>{' '}
        </>
      )}
      <Word
        label="A new document after"
        value={begins}
        options={BEGINS.map(({ value, label }) => ({
          value,
          label: value === 'pages' && begins === 'pages' ? 'pages' : label,
        }))}
        onChange={(next) => onChange(ruleOf(next, rule.pages_a_document))}
      />
    </>
  );
}
