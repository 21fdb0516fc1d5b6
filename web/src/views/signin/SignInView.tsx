import { type FormEvent, useState } from 'react';
import { useSignIn } from '../../api/queries';
import { Button } from '../../parts/Button';
import { Field } from '../../parts/Field';
import { Stacked } from '../../parts/TopBar';

/** User name and password; what is wrong stands under them, and nothing typed is lost. */
export function SignInView({ people }: { people: boolean }) {
  const signIn = useSignIn();
  const [user, setUser] = useState('');
  const [password, setPassword] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ user, password }, { onError: () => setPassword('') });
  };
  return (
    <main className="flex h-full items-center justify-center bg-surround">
      <form
        onSubmit={submit}
        className="flex w-[340px] flex-col gap-4 rounded-md border border-strong-line bg-board p-7"
      >
        <h1 className="flex items-center gap-3 text-xl font-semibold">
          <Stacked className="size-7" />
          Hollow Stack
        </h1>
        <Field
          label="User name"
          autoComplete="username"
          autoFocus
          required
          value={user}
          onChange={(e) => setUser(e.target.value)}
        />
        <Field
          label="Password"
          type="password"
          autoComplete="current-password"
          required
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        <p role="alert" className="min-h-9 text-sm">
          {signIn.error?.message ??
            (people
              ? ''
              : 'Nobody can sign in yet. Whoever runs the server makes the first person: hollowstack person add NAME --role administrator')}
        </p>
        <Button kind="main" type="submit" disabled={signIn.isPending}>
          {signIn.isPending ? 'Signing in …' : 'Sign in'}
        </Button>
      </form>
    </main>
  );
}
