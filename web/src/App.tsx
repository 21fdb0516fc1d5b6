import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Suspense, useEffect } from 'react';
import { Redirect, Route, Switch, useLocation } from 'wouter';
import { sessionQuery } from './api/queries';
import { stacksQuery } from './api/shelf';
import type { Command } from './engine/keys/registry';
import { shelfAskedIn } from './engine/shelf/asked';
import { useChrome } from './hooks/useChrome';
import { useKept } from './hooks/useKept';
import { Guarded } from './ui/Guarded';
import { Keyboard } from './ui/Keyboard';
import { Failed, Loading } from './ui/States';
import { view } from './ui/view';

const Shelf = view(async () => (await import('./views/shelf/ShelfView')).ShelfView);
const Stack = view(async () => (await import('./views/stack/StackView')).StackView);
const Cover = view(async () => (await import('./views/stack/CoverSheet')).CoverSheet);
const Slip = view(async () => (await import('./views/stack/RescanSlip')).RescanSlip);
const NewStack = view(async () => (await import('./views/intake/IntakeView')).IntakeView);
const Treatments = view(async () => (await import('./views/treatments/TreatmentsView')).TreatmentsView);
const People = view(async () => (await import('./views/people/PeopleView')).PeopleView);
const Account = view(async () => (await import('./views/people/AccountView')).AccountView);
const Invitation = view(async () => (await import('./views/people/InvitationView')).InvitationView);
const Quality = view(async () => (await import('./views/stations/StationQuality')).StationQualityView);
const Search = view(async () => (await import('./views/search/SearchView')).SearchView);
const Destinations = view(async () => (await import('./views/dispatch/DestinationsView')).DestinationsView);
const Shared = view(async () => (await import('./views/shared/SharedView')).SharedView);
const Bin = view(async () => (await import('./views/bin/BinView')).BinView);
const Guide = view(async () => (await import('./views/guide/Guide')).Guide);
const SignIn = view(async () => (await import('./views/signin/SignInView')).SignInView);

/** The shelf and its first stacks are asked for together with who is signed in, where somebody was when last here. */
function useShelfAhead(onShelf: boolean, user: string | null | undefined) {
  const client = useQueryClient();
  const [{ signedIn }, keep] = useKept('last here', { signedIn: false });
  const wanted = onShelf && (user === undefined ? signedIn : user !== null);
  useEffect(() => {
    if (!wanted) return;
    Shelf.fetch();
    client.prefetchQuery(stacksQuery(shelfAskedIn(window.location.search), 0));
  }, [wanted, client]);
  useEffect(() => {
    if (user !== undefined && (user !== null) !== signedIn) keep({ signedIn: user !== null });
  });
}

/** Which view is shown; nothing but signing in to those who are not signed in. */
export function App() {
  const { data: session, error, refetch } = useQuery(sessionQuery);
  useChrome();
  const [place] = useLocation();
  useShelfAhead(place === '/', session?.user);
  if (error) return <Failed message={error.message} retry={() => refetch()} />;
  if (!session) return <Loading label="Loading" className="m-6 h-10" />;
  const { user } = session;
  if (!user)
    return (
      <Suspense fallback={<Loading label="Loading" className="m-6 h-10" />}>
        <Switch>
          <Route path="/invitation">
            <Invitation secret={window.location.hash.slice(1)} />
          </Route>
          <Route path="/shared/:secret">{({ secret }) => <Shared secret={secret} />}</Route>
          <Route>
            <SignIn people={session.people} />
          </Route>
        </Switch>
      </Suspense>
    );
  return (
    <>
      <Places people={session.rights.includes('people')} work={session.rights.includes('work')} />
      {session.demo && !place.startsWith('/shared/') && (
        <Suspense>
          <Guide />
        </Suspense>
      )}
      <Guarded key={place.split('/')[1]} what="This view">
        <Suspense fallback={<Loading label="Loading the view" className="m-6 h-10" />}>
          <Switch>
            <Route path="/">
              <Shelf user={user} />
            </Route>
            <Route path="/new">
              <NewStack user={user} />
            </Route>
            <Route path="/people">
              {session.rights.includes('people') ? <People user={user} /> : <Redirect to="/" />}
            </Route>
            <Route path="/account">
              <Account user={user} />
            </Route>
            <Route path="/stations/:station">
              {({ station }) => <Quality user={user} stationId={Number(station)} />}
            </Route>
            <Route path="/shared/:secret">{({ secret }) => <Shared secret={secret} />}</Route>
            <Route path="/search">
              <Search user={user} />
            </Route>
            <Route path="/destinations">
              <Destinations user={user} />
            </Route>
            <Route path="/bin">
              <Bin user={user} />
            </Route>
            <Route path="/treatments/:name?">{({ name }) => <Treatments user={user} name={name ?? ''} />}</Route>
            <Route path="/stacks/:stack/cover-sheet">
              {({ stack }) => <Cover user={user} stackId={Number(stack)} />}
            </Route>
            <Route path="/stacks/:stack/rescan-slip">
              {({ stack }) => <Slip user={user} stackId={Number(stack)} />}
            </Route>
            <Route path="/stacks/:stack/*?">
              {({ stack, '*': rest }) => <Stack key={stack} user={user} stackId={Number(stack)} rest={rest ?? ''} />}
            </Route>
            <Route>
              <Redirect to="/" />
            </Route>
          </Switch>
        </Suspense>
      </Guarded>
    </>
  );
}

/** Everywhere one can go by name. */
function Places({ people, work }: { people: boolean; work: boolean }) {
  const [, go] = useLocation();
  const place = (label: string, href: string): Command => ({
    name: `go ${href}`,
    label,
    key: '',
    subject: 'Go to',
    perform: () => go(href),
  });
  return (
    <Keyboard
      places={[
        place('Shelf', '/'),
        { ...place('Search everything', '/search'), key: 'Ctrl+Shift+f', anywhere: true },
        ...(work ? [place('New stack', '/new')] : []),
        place('Treatments', '/treatments'),
        place('Destinations', '/destinations'),
        ...(people ? [place('People', '/people')] : []),
        place('Bin', '/bin'),
        place('Your account', '/account'),
      ]}
    />
  );
}
