import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useLocation } from 'wouter';
import { ROLES, tokensQuery, useAccount } from '@/api/people';
import { sessionQuery } from '@/api/queries';
import type { Role } from '@/api/types';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { TopBar } from '@/ui/TopBar';
import { when } from '@/words/figures';

/** What is one's own: password, sessions, tokens for scripts. */
export function AccountView({ user }: { user: string }) {
  const { data: session } = useQuery(sessionQuery);
  const { endAll } = useAccount();
  const [, go] = useLocation();
  useCommands([{ name: 'shelf', label: 'Back to the shelf', key: 'Escape', shown: 'Esc', perform: () => go('/') }]);
  return (
    <div className="flex h-full flex-col">
      <TopBar user={user} title="Your account" />
      <main className="min-h-0 flex-1 overflow-y-auto bg-ground p-6">
        <div className="mx-auto flex max-w-[720px] flex-col gap-5">
          <p>
            You are signed in as <strong className="font-semibold">{user}</strong>, {session?.role}:{' '}
            {ROLES.find(({ value }) => value === session?.role)?.means}.
          </p>
          <PasswordForm />
          <Tokens />
          <section
            aria-label="Sessions"
            className="flex items-center gap-4 rounded-md border border-hairline bg-panel p-4"
          >
            <p className="flex-1">Sign out on every machine on which you are signed in, this one too.</p>
            <Button disabled={endAll.isPending} onClick={() => endAll.mutate()}>
              Sign out everywhere
            </Button>
          </section>
        </div>
      </main>
    </div>
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
    <form
      onSubmit={submit}
      aria-label="Password"
      className="flex flex-col gap-3 rounded-md border border-hairline bg-panel p-4"
    >
      <h2 className="text-body font-semibold">Password</h2>
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="Present password"
          type="password"
          autoComplete="current-password"
          required
          value={old}
          onChange={(event) => setOld(event.target.value)}
        />
        <Field
          label="New password, 12 characters or more"
          type="password"
          autoComplete="new-password"
          required
          value={fresh}
          onChange={(event) => setFresh(event.target.value)}
        />
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
    <section aria-label="Tokens" className="flex flex-col gap-3 rounded-md border border-hairline bg-panel p-4">
      <h2 className="text-body font-semibold">Tokens for scripts</h2>
      {tokens.length > 0 && (
        <ul className="flex flex-col">
          {tokens.map((token) => (
            <li key={token.id} className="flex items-center gap-3 border-b border-hairline py-1.5">
              <span className="min-w-0 flex-1 truncate" title={token.name}>
                {token.name}
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
        <p role="status" className="flex items-center gap-3 border-l-2 border-ink pl-3">
          <span className="min-w-0 flex-1 font-mono text-small break-all select-text">{make.data.secret}</span>
          <span className="text-small text-soft">Shown this once</span>
        </p>
      )}
      <form onSubmit={submit} className="flex items-end gap-3">
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
        <Button type="submit" disabled={make.isPending || !name.trim()}>
          Make a token
        </Button>
      </form>
      <p role="alert" className="empty:hidden">
        {make.error?.message}
      </p>
    </section>
  );
}
