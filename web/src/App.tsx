import { useQuery } from '@tanstack/react-query';
import { Redirect, Route, Switch } from 'wouter';
import { sessionQuery } from '@/api/queries';
import { KeyHelp } from '@/ui/KeyHelp';
import { Failed, Loading } from '@/ui/States';
import { BinView } from '@/views/bin/BinView';
import { IntakeView } from '@/views/intake/IntakeView';
import { AccountView } from '@/views/people/AccountView';
import { InvitationView } from '@/views/people/InvitationView';
import { PeopleView } from '@/views/people/PeopleView';
import { ShelfView } from '@/views/shelf/ShelfView';
import { SignInView } from '@/views/signin/SignInView';
import { StackView } from '@/views/stack/StackView';
import { TreatmentsView } from '@/views/treatments/TreatmentsView';

/** Which view is shown; nothing but signing in to those who are not signed in. */
export function App() {
  const { data: session, error, refetch } = useQuery(sessionQuery);
  if (error) return <Failed message={error.message} retry={() => refetch()} />;
  if (!session) return <Loading label="Loading" className="m-4 h-10" />;
  if (!session.user)
    return (
      <Switch>
        <Route path="/invitation">
          <InvitationView secret={window.location.hash.slice(1)} />
        </Route>
        <Route>
          <SignInView people={session.people} />
        </Route>
      </Switch>
    );
  return (
    <>
      <KeyHelp />
      <Switch>
        <Route path="/">
          <ShelfView user={session.user} />
        </Route>
        <Route path="/new">
          <IntakeView user={session.user} />
        </Route>
        <Route path="/people">
          {session.rights.includes('people') ? <PeopleView user={session.user} /> : <Redirect to="/" />}
        </Route>
        <Route path="/account">
          <AccountView user={session.user} />
        </Route>
        <Route path="/bin">
          <BinView user={session.user} />
        </Route>
        <Route path="/treatments/:name?">
          {({ name }) => <TreatmentsView user={session.user ?? ''} name={name ?? ''} />}
        </Route>
        <Route path="/stacks/:stack/*?">
          {({ stack, '*': rest }) => (
            <StackView key={stack} user={session.user ?? ''} stackId={Number(stack)} rest={rest ?? ''} />
          )}
        </Route>
        <Route>
          <Redirect to="/" />
        </Route>
      </Switch>
    </>
  );
}
