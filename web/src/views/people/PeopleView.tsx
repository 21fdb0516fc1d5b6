import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { peopleQuery, ROLES, recordQuery, usePeople } from '@/api/people';
import type { Invitation, Person, RecordLine, Role } from '@/api/types';
import { Button } from '@/ui/Button';
import { Part, Screen } from '@/ui/Screen';
import { Select } from '@/ui/Select';
import { Failed, Loading } from '@/ui/States';
import { Clipped } from '@/ui/Tip';
import { when } from '@/words/figures';

/** Everybody who has access, what each may, and what was noted about it. */
export function PeopleView({ user }: { user: string }) {
  const { data: people, error, refetch } = useQuery(peopleQuery);
  return (
    <Screen user={user} title="People">
      {people ? (
        <div className="overflow-x-auto">
          <table className="w-full border-collapse text-left">
            <thead className="text-small text-soft">
              <tr className="border-b border-hairline">
                <th className="py-2 pr-2 font-normal">User name</th>
                <th className="px-2 py-2 font-normal">Role</th>
                <th className="px-2 py-2 font-normal">Signed in last</th>
                <th className="px-2 py-2 text-right font-normal">Tokens</th>
                <th className="py-2 pl-2">
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {people.map((person) => (
                <PersonRow key={person.id} person={person} self={person.user === user} />
              ))}
            </tbody>
          </table>
        </div>
      ) : error ? (
        <Failed message={error.message} retry={() => refetch()} />
      ) : (
        <Loading label="Loading people" className="h-40" />
      )}
      <Invite />
      <Record />
    </Screen>
  );
}

function PersonRow({ person, self }: { person: Person; self: boolean }) {
  const { change, endSessions } = usePeople();
  return (
    <tr className={`border-b border-hairline last:border-0 ${person.active ? '' : 'text-soft'}`}>
      <td className="max-w-64 py-2 pr-2">
        <Clipped text={`${person.user}${self ? ' (you)' : ''}${person.active ? '' : ' · no access'}`} />
      </td>
      <td className="px-2 py-2">
        <Select
          label={`Role of ${person.user}`}
          hidden
          value={person.role}
          options={ROLES}
          disabled={change.isPending}
          onChange={(role) => change.mutate({ id: person.id, role })}
        />
      </td>
      <td className="min-w-28 px-2 py-2 font-mono text-small">{person.last_seen ? when(person.last_seen) : 'never'}</td>
      <td className="px-2 py-2 text-right font-mono">{person.tokens}</td>
      <td className="py-2 pl-2">
        <span className="flex flex-wrap justify-end gap-2">
          <Button
            kind="quiet"
            size="small"
            disabled={endSessions.isPending}
            onClick={() => endSessions.mutate(person.id)}
          >
            Sign out everywhere
          </Button>
          <Button
            size="small"
            disabled={change.isPending}
            onClick={() => change.mutate({ id: person.id, active: !person.active })}
          >
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
    <Part title="Invite somebody">
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-48">
          <Select label="As" value={role} options={ROLES} onChange={setRole} />
        </div>
        <p className="flex-1 pb-1.5 text-soft">{ROLES.find(({ value }) => value === role)?.means}</p>
        <Button disabled={invite.isPending} onClick={() => invite.mutate(role)}>
          Make a link
        </Button>
      </div>
      {made && link && (
        <p role="status" className="flex items-center gap-3 border-l-3 border-ink pl-3">
          <span className="min-w-0 flex-1 font-mono text-small break-all select-text">{link}</span>
          <Button onClick={() => navigator.clipboard?.writeText(link)}>Copy</Button>
        </p>
      )}
      {made && (
        <p className="text-small text-soft">
          For one {made.role}, until {when(made.ends_at)}. It is shown this once.
        </p>
      )}
    </Part>
  );
}

function Record() {
  const { data: lines } = useQuery(recordQuery);
  return (
    <Part title="Record">
      {lines ? (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, by key too
        <ol tabIndex={0} aria-label="Record" className="max-h-96 overflow-y-auto border-t border-hairline">
          {lines.map((line: RecordLine) => (
            <li
              key={line.id}
              className="grid gap-x-4 border-b border-hairline py-1.5 sm:grid-cols-[13rem_9rem_11rem_1fr]"
            >
              <span className="font-mono text-small leading-5">{when(line.at)}</span>
              <Clipped text={line.who || '–'} />
              <span>{line.what}</span>
              <Clipped text={line.about} className="text-soft" />
            </li>
          ))}
        </ol>
      ) : (
        <Loading label="Loading the record" className="h-24" />
      )}
    </Part>
  );
}
