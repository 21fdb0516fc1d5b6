import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useLocation } from 'wouter';
import { peopleQuery, ROLES, recordQuery, usePeople } from '@/api/people';
import type { Invitation, Person, RecordLine, Role } from '@/api/types';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { Failed, Loading } from '@/ui/States';
import { TopBar } from '@/ui/TopBar';
import { when } from '@/words/figures';

/** Everybody who has access, what each may, and what was noted about it. */
export function PeopleView({ user }: { user: string }) {
  const { data: people, error, refetch } = useQuery(peopleQuery);
  const [, go] = useLocation();
  useCommands([{ name: 'shelf', label: 'Back to the shelf', key: 'Escape', shown: 'Esc', perform: () => go('/') }]);
  return (
    <div className="flex h-full flex-col">
      <TopBar user={user} title="People" />
      <main className="min-h-0 flex-1 overflow-y-auto bg-ground p-6">
        <div className="mx-auto flex max-w-[920px] flex-col gap-6">
          {people ? (
            <table className="w-full border-collapse rounded-md border border-hairline bg-panel text-left">
              <thead className="text-small text-soft">
                <tr className="border-b border-hairline">
                  <th className="px-4 py-2 font-normal">User name</th>
                  <th className="px-2 py-2 font-normal">Role</th>
                  <th className="px-2 py-2 font-normal">Signed in last</th>
                  <th className="px-2 py-2 text-right font-normal">Tokens</th>
                  <th className="px-4 py-2" aria-label="What can be done" />
                </tr>
              </thead>
              <tbody>
                {people.map((person) => (
                  <PersonRow key={person.id} person={person} self={person.user === user} />
                ))}
              </tbody>
            </table>
          ) : error ? (
            <Failed message={error.message} retry={() => refetch()} />
          ) : (
            <Loading label="Loading people" className="h-40" />
          )}
          <Invite />
          <Record />
        </div>
      </main>
    </div>
  );
}

function PersonRow({ person, self }: { person: Person; self: boolean }) {
  const { change, endSessions } = usePeople();
  return (
    <tr className={`border-b border-hairline last:border-0 ${person.active ? '' : 'text-soft'}`}>
      <td className="max-w-64 truncate px-4 py-2" title={person.user}>
        {person.user}
        {self && ' (you)'}
        {!person.active && ' · no access'}
      </td>
      <td className="px-2 py-2">
        <select
          aria-label={`Role of ${person.user}`}
          value={person.role}
          disabled={change.isPending}
          onChange={(event) => change.mutate({ id: person.id, role: event.target.value as Role })}
          className="h-8 rounded-md border border-hairline bg-panel px-1.5 text-ink"
        >
          {ROLES.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </td>
      <td className="px-2 py-2 font-mono text-small">{person.last_seen ? when(person.last_seen) : 'never'}</td>
      <td className="px-2 py-2 text-right font-mono">{person.tokens}</td>
      <td className="px-4 py-2">
        <span className="flex justify-end gap-1">
          <Button kind="quiet" disabled={endSessions.isPending} onClick={() => endSessions.mutate(person.id)}>
            Sign out everywhere
          </Button>
          <Button disabled={change.isPending} onClick={() => change.mutate({ id: person.id, active: !person.active })}>
            {person.active ? 'Take access away' : 'Give access'}
          </Button>
        </span>
      </td>
    </tr>
  );
}

function Invite() {
  const { invite } = usePeople();
  const [role, setRole] = useState<Role>('technician');
  const made: Invitation | undefined = invite.data;
  const link = made && `${window.location.origin}/invitation#${made.secret}`;
  return (
    <section aria-label="Invite somebody" className="flex flex-col gap-2 rounded-md border border-hairline bg-panel p-4">
      <h2 className="text-body font-semibold">Invite somebody</h2>
      <div className="flex items-end gap-3">
        <div className="w-48">
          <Select label="As" value={role} options={ROLES} onChange={setRole} />
        </div>
        <p className="flex-1 pb-1.5 text-soft">{ROLES.find(({ value }) => value === role)?.means}</p>
        <Button disabled={invite.isPending} onClick={() => invite.mutate(role)}>
          Make a link
        </Button>
      </div>
      {made && link && (
        <p role="status" className="flex items-center gap-3 border-l-2 border-ink pl-3">
          <span className="min-w-0 flex-1 font-mono text-small break-all select-text">{link}</span>
          <Button onClick={() => navigator.clipboard?.writeText(link)}>Copy</Button>
        </p>
      )}
      {made && (
        <p className="text-small text-soft">
          For one {made.role}, until {when(made.ends_at)}. It is shown this once.
        </p>
      )}
    </section>
  );
}

function Record() {
  const { data: lines } = useQuery(recordQuery);
  return (
    <section aria-label="Record" className="flex flex-col gap-2">
      <h2 className="text-body font-semibold">Record</h2>
      {lines ? (
        <ol className="max-h-80 overflow-y-auto rounded-md border border-hairline bg-panel">
          {lines.map((line: RecordLine) => (
            <li
              key={line.id}
              className="grid grid-cols-[150px_140px_160px_1fr] gap-3 border-b border-hairline px-4 py-1.5 last:border-0"
            >
              <span className="font-mono text-small leading-5">{when(line.at)}</span>
              <span className="truncate" title={line.who}>
                {line.who || '–'}
              </span>
              <span>{line.what}</span>
              <span className="truncate text-soft" title={line.about}>
                {line.about}
              </span>
            </li>
          ))}
        </ol>
      ) : (
        <Loading label="Loading the record" className="h-24" />
      )}
    </section>
  );
}
