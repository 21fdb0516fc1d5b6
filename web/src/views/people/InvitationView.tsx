import { useState } from 'react';
import { useLocation } from 'wouter';
import { useAccept } from '@/api/people';
import { Door } from '@/ui/Door';
import { Field } from '@/ui/Field';

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
    </Door>
  );
}
