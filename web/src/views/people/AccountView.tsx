import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { ROLES, tokensQuery, useAccount } from '@/api/people';
import { sessionQuery } from '@/api/queries';
import type { Role } from '@/api/types';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Password } from '@/ui/Password';
import { Part, Screen } from '@/ui/Screen';
import { Select } from '@/ui/Select';
import { Clipped } from '@/ui/Tip';
import { when } from '@/words/figures';

/** What is one's own: password, sessions, tokens for scripts. */
export function AccountView({ user }: { user: string }) {
  const { data: session } = useQuery(sessionQuery);
  const { endAll } = useAccount();
  return (
    <Screen user={user} title="Your account">
      <p>
        You are signed in as <strong className="font-semibold">{user}</strong>, {session?.role}:{' '}
        {ROLES.find(({ value }) => value === session?.role)?.means}.
      </p>
      <PasswordForm />
      <Tokens />
      <Part title="Sessions">
        <div className="flex flex-wrap items-center gap-4">
          <p className="flex-1">Sign out on every machine on which you are signed in, this one too.</p>
          <Button disabled={endAll.isPending} onClick={() => endAll.mutate()}>
            Sign out everywhere
          </Button>
        </div>
      </Part>
    </Screen>
  );
}

function PasswordForm() {
  const { password } = useAccount();
  const [old, setOld] = useState('');
  const [fresh, setFresh] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    password.mutate(
      { old, new: fresh },
      {
        onSuccess: () => {
          setOld('');
          setFresh('');
        },
      },
    );
  };
  return (
    <form onSubmit={submit} aria-label="Password" className="flex flex-col gap-3">
      <h2 className="text-title font-semibold">Password</h2>
      <div className="grid gap-4 sm:grid-cols-2">
        <Password label="Present password" value={old} onChange={setOld} />
        <Password label="New password" fresh value={fresh} onChange={setFresh} />
      </div>
      <div className="flex items-center gap-3">
        <p role="alert" className="flex-1">
          {password.error?.message}
        </p>
        <Button type="submit" disabled={password.isPending}>
          Change password
        </Button>
      </div>
    </form>
  );
}

function Tokens() {
  const { data: tokens = [] } = useQuery(tokensQuery);
  const { data: session } = useQuery(sessionQuery);
  const { make, withdraw } = useAccount();
  const [name, setName] = useState('');
  const [role, setRole] = useState<Role>('reader');
  const [days, setDays] = useState('90');
  const mine = ROLES.findIndex(({ value }) => value === session?.role);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate({ name, role, days: Number(days) }, { onSuccess: () => setName('') });
  };
  return (
    <Part title="Tokens for scripts">
      {tokens.length > 0 && (
        <ul className="flex flex-col">
          {tokens.map((token) => (
            <li key={token.id} className="flex items-center gap-3 border-b border-hairline py-1.5">
              <span className="min-w-0 flex-1">
                <Clipped text={token.name} />
              </span>
              <span>{token.role}</span>
              <span className="text-small text-soft">
                {token.used_at ? `used ${when(token.used_at)}` : 'not used yet'}, ends {when(token.ends_at)}
              </span>
              <Button
                aria-label={`Withdraw ${token.name}`}
                disabled={withdraw.isPending}
                onClick={() => withdraw.mutate(token.id)}
              >
                Withdraw
              </Button>
            </li>
          ))}
        </ul>
      )}
      {make.data?.secret && (
        <p role="status" className="flex items-center gap-3 border-l-3 border-ink pl-3">
          <span className="min-w-0 flex-1 font-mono text-small break-all select-text">{make.data.secret}</span>
          <span className="text-small text-soft">Shown this once</span>
        </p>
      )}
      <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
        <Field
          label="Name of the token"
          required
          maxLength={80}
          className="flex-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <div className="w-40">
          <Select label="May do what a … may" value={role} options={ROLES.slice(0, mine + 1)} onChange={setRole} />
        </div>
        <Field
          label="Days"
          inputMode="numeric"
          className="w-20"
          value={days}
          onChange={(event) => setDays(event.target.value)}
        />
        <Button type="submit" disabled={make.isPending} why={name.trim() ? '' : 'Name it first.'}>
          Make a token
        </Button>
      </form>
      <p role="alert" className="empty:hidden">
        {make.error?.message}
      </p>
    </Part>
  );
}
