import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { searchFiltersQuery } from '@/api/search';
import { type Asked, KINDS, yearIn } from '@/engine/search/asked';
import { STATES } from '@/engine/shelf/asked';
import { Check } from '@/ui/Check';
import { Choice } from '@/ui/Choice';
import { INPUT } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { CollectionChoice } from '@/views/shelf/CollectionChoice';
import { KIND_WORDS } from '@/words/search';
import { AT_WORDS } from '@/words/shelf';

/** Among what is searched, in one line. */
export function Among({ asked, onChange }: { asked: Asked; onChange: (some: Partial<Asked>) => void }) {
  const { data } = useQuery(searchFiltersQuery);
  const named = [...new Set([...(data?.stations ?? []), ...(asked.station ? [asked.station] : [])])];
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
      <Choice
        label="What is searched"
        value={asked.kind}
        onChange={(kind) => onChange({ kind })}
        options={KINDS.map((value) => ({ value, label: KIND_WORDS[value] }))}
      />
      <Select
        label="What stacks are at"
        hidden
        value={asked.at}
        onChange={(at) => onChange({ at })}
        options={STATES.map((value) => ({ value, label: AT_WORDS[value] }))}
      />
      <CollectionChoice value={asked.collection} onChange={(collection) => onChange({ collection })} />
      {named.length > 0 && (
        <Select
          label="Station"
          hidden
          value={asked.station || ANY}
          onChange={(station) => onChange({ station: station === ANY ? '' : station })}
          options={[ANY, ...named].map((value) => ({ value, label: value === ANY ? 'Any station' : value }))}
        />
      )}
      <div className="flex items-center gap-2">
        <Year label="From year" value={asked.first} onChange={(first) => onChange({ first })} />
        <span aria-hidden="true">–</span>
        <Year label="To year" value={asked.last} onChange={(last) => onChange({ last })} />
      </div>
      <div className="ml-auto">
        <Check label="Forgive a slip" value={asked.forgiving} onChange={(forgiving) => onChange({ forgiving })} />
      </div>
    </div>
  );
}

const ANY = '\u2060any';

type YearProps = { label: string; value: number; onChange: (year: number) => void };

/** A year; what is none yet filters nothing, and is told so once the field is left. */
function Year({ label, value, onChange }: YearProps) {
  const [typed, setTyped] = useState(value ? String(value) : '');
  const [left, setLeft] = useState(true);
  const wrong = left && typed.trim() !== '' && !yearIn(typed);
  return (
    <input
      aria-label={label}
      placeholder={label.startsWith('From') ? 'from year' : 'to year'}
      inputMode="numeric"
      maxLength={6}
      value={typed}
      {...(wrong ? { 'aria-invalid': true, title: 'A year has four figures, from 1000 to 2099.' } : {})}
      onFocus={() => setLeft(false)}
      onBlur={() => setLeft(true)}
      onChange={({ target }) => {
        setTyped(target.value);
        if (yearIn(target.value) !== value) onChange(yearIn(target.value));
      }}
      className={`${INPUT} w-24 font-mono text-small`}
    />
  );
}
