import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { languagesQuery } from '@/api/people';
import { proposedQuery } from '@/api/reading';
import type { Doing, PageRow, Stack } from '@/api/types';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Written } from '@/ui/Word';
import { counted } from '@/words/figures';
import { languageWords } from '@/words/languages';
import { LanguageFields } from './LanguageFields';

type Reach = 'page' | 'document' | 'stack';

export type ReadInProps = {
  stack: Stack;
  /** The page that is looked at, and those of its document. */
  page: PageRow | undefined;
  document: readonly number[];
  /** Why nothing can be changed; empty where it can. */
  why: string;
  onChange: (doing: Doing) => void;
};

/** What the text is read in, for the page, its document or the stack; what pages seem to be written in otherwise. */
export function ReadIn({ stack, page, document, why, onChange }: ReadInProps) {
  const { data: known = [] } = useQuery(languagesQuery);
  const { data: proposed = [] } = useQuery(proposedQuery(stack.id, stack.change));
  const [wished, setReach] = useState<Reach>('stack');
  const reach = page ? wished : 'stack';
  const language = page?.language || stack.language;
  const pages = reach === 'page' && page ? [page.id] : reach === 'document' ? [...document] : null;
  return (
    <div className="flex flex-col gap-1.5 text-small" data-testid="read-in">
      <p className="text-soft">
        {stack.read_later ? 'Put off; to be read as ' : 'Read as '}
        {why ? (
          languageWords(language, known)
        ) : (
          <Written label="Languages of the text" text={languageWords(language, known)}>
            <div className="flex flex-col gap-3">
              <div className="flex">
                <Choice<Reach>
                  label="Languages of"
                  value={reach}
                  options={[
                    { value: 'page', label: page ? `Page ${page.number}` : 'Page' },
                    { value: 'document', label: 'Document' },
                    { value: 'stack', label: 'Stack' },
                  ]}
                  onChange={setReach}
                />
              </div>
              <LanguageFields
                value={reach === 'stack' ? stack.language : language}
                own={reach === 'stack' ? stack.own_language : Boolean(page?.language)}
                otherwise={reach === 'stack' ? 'treatment' : 'stack'}
                onChange={(next) => onChange({ do: 'read in', language: next, pages })}
              />
            </div>
          </Written>
        )}
        {stack.read_later && !why && (
          <Button size="small" className="ml-3" onClick={() => onChange({ do: 'read later', later: false })}>
            Read it now
          </Button>
        )}
      </p>
      {proposed.map(({ language: other, name, pages: seem, sure, there, missing }) => (
        <p
          key={other}
          role="status"
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-l-3 border-review bg-slip px-3 py-1.5"
        >
          <span className="min-w-0 flex-1">
            {counted(seem.length, 'page')} {seem.length === 1 ? 'seems' : 'seem'} to be written in {name}
            {sure < LIKELY ? ', by the script' : ''}
            {there ? '.' : `: to read ${seem.length === 1 ? 'it' : 'them'}${missing}.`}
          </span>
          {there && !why && (
            <Button size="small" onClick={() => onChange({ do: 'read in', language: other, pages: seem })}>
              Read in {name}
            </Button>
          )}
        </p>
      ))}
    </div>
  );
}

/** Below it only the script is known, and the language of most pages in it is meant. */
const LIKELY = 0.9;
