import { useState } from 'react';
import { useLocation } from 'wouter';
import { useAccept } from '@/api/people';
import { Door } from '@/ui/Door';
import { Field } from '@/ui/Field';
import { Password } from '@/ui/Password';

/** Where the link of an invitation leads: a user name and a password of one's own. */
export function InvitationView({ secret }: { secret: string }) {
  const accept = useAccept();
  const [, go] = useLocation();
  const [user, setUser] = useState('');
  const [password, setPassword] = useState('');
  const enter = () => accept.mutate({ secret, user, password }, { onSuccess: () => go('/', { replace: true }) });
  return (
    <Door
      title="You are invited"
      said={accept.error?.message ?? ''}
      action="Begin"
      busy={accept.isPending}
      onEnter={enter}
    >
      <Field
        label="User name"
        autoComplete="username"
        required
        maxLength={150}
        value={user}
        onChange={(event) => setUser(event.target.value)}
      />
      <Password fresh value={password} onChange={setPassword} />
    </Door>
  );
}
