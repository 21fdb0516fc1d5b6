import { type FormEvent, useState } from 'react';
import { useLocation } from 'wouter';
import { useAccept } from '../../api/people';
import { Button } from '../../parts/Button';
import { Field } from '../../parts/Field';
import { Stacked } from '../../parts/TopBar';

/** Where the link of an invitation leads: a user name and a password of one's own. */
export function InvitationView({ secret }: { secret: string }) {
  const accept = useAccept();
  const [, go] = useLocation();
  const [user, setUser] = useState('');
  const [password, setPassword] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    accept.mutate({ secret, user, password }, { onSuccess: () => go('/', { replace: true }) });
  };
  return (
    <main className="flex h-full items-center justify-center bg-surround">
      <form
        onSubmit={submit}
        className="flex w-[360px] flex-col gap-4 rounded-md border border-strong-line bg-board p-7"
      >
        <h1 className="flex items-center gap-3 text-xl font-semibold">
          <Stacked className="size-7" />
          You are invited
        </h1>
        <Field
          label="User name"
          autoComplete="username"
          autoFocus
          required
          maxLength={150}
          value={user}
          onChange={(event) => setUser(event.target.value)}
        />
        <Field
          label="Password"
          help="12 characters or more; three or four words make a good one."
          type="password"
          autoComplete="new-password"
          required
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <p role="alert" className="min-h-9 text-sm">
          {accept.error?.message}
        </p>
        <Button kind="main" type="submit" disabled={accept.isPending}>
          Begin
        </Button>
      </form>
    </main>
  );
}
