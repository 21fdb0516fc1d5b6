import { useState } from 'react';
import { useSignIn } from '@/api/queries';
import { Door } from '@/ui/Door';
import { Field } from '@/ui/Field';
import { Password } from '@/ui/Password';

const NOBODY =
  'Nobody can sign in yet. Whoever runs the server makes the first person: hollowstack person add NAME --role administrator';

/** User name and password; what is wrong stands under them, and nothing typed is lost. */
export function SignInView({ people }: { people: boolean }) {
  const signIn = useSignIn();
  const [user, setUser] = useState('');
  const [password, setPassword] = useState('');
  return (
    <Door
      title="Hollow Stack"
      said={signIn.error?.message ?? (people ? '' : NOBODY)}
      action={signIn.isPending ? 'Signing in …' : 'Sign in'}
      busy={signIn.isPending}
      onEnter={() => signIn.mutate({ user, password }, { onError: () => setPassword('') })}
    >
      <Field
        label="User name"
        autoComplete="username"
        required
        value={user}
        onChange={(event) => setUser(event.target.value)}
      />
      <Password value={password} onChange={setPassword} />
    </Door>
  );
}
