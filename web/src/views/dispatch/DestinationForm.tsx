import { type FormEvent, useId, useState } from 'react';
import { useDestinations } from '@/api/dispatch';
import type { Destination, DestinationAsked } from '@/api/types';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Field, INPUT } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { KINDS, TAKES, TAKES_WORDS } from '@/words/dispatch';
import { addresses } from './Going';
import { Names } from './Names';

type Kind = keyof typeof KINDS;
type Taken = Destination['takes'][number];
type Given = {
  name: string;
  label: string;
  help?: string;
  type?: 'number' | 'text' | 'lines';
  first?: string;
  narrow?: boolean;
};

const FIELDS: Record<Kind, Given[]> = {
  folder: [{ name: 'path', label: 'Folder', help: 'On the machine that the server runs on, or mounted there.' }],
  sftp: [
    { name: 'host', label: 'Machine', narrow: true },
    { name: 'port', label: 'Port', type: 'number', first: '22', narrow: true },
    { name: 'user', label: 'Signed in as', narrow: true },
    { name: 'folder', label: 'Folder', help: 'From where signing in leads to; empty for that.' },
  ],
  storage: [
    { name: 'endpoint', label: 'Address', help: 'Such as https://storage.example.org' },
    { name: 'bucket', label: 'Bucket', narrow: true },
    { name: 'prefix', label: 'Before each name', narrow: true },
    { name: 'region', label: 'Region', first: 'us-east-1', narrow: true },
    { name: 'access_key', label: 'Access key', narrow: true },
  ],
  mail: [
    { name: 'host', label: 'Mail server', narrow: true },
    { name: 'port', label: 'Port', type: 'number', first: '587', narrow: true },
    { name: 'user', label: 'Signed in as', help: 'Empty where nobody signs in.', narrow: true },
    { name: 'sender', label: 'From', narrow: true },
    {
      name: 'recipients',
      label: 'To',
      help: 'Addresses, with commas between them; they can be changed before each mail.',
    },
    { name: 'subject', label: 'Subject', first: '{title}' },
    { name: 'text', label: 'Text', type: 'lines', first: 'Attached: {title}, {pages} pages.' },
    { name: 'limit_mb', label: 'Largest message, MB', type: 'number', first: '20', narrow: true },
  ],
};
const SECRETS: Record<Kind, string> = {
  folder: '',
  sftp: 'Password or private key',
  storage: 'Secret key',
  mail: 'Password',
};
const SECURED = [
  { value: 'starttls', label: 'STARTTLS' },
  { value: 'tls', label: 'TLS from the start' },
  { value: 'none', label: 'nothing: all can read it' },
] as const;

/** What is said of a destination; a secret that is kept is never shown again, and stays where none is typed. */
export function DestinationForm({ one, onDone }: { one: Destination | undefined; onDone: () => void }) {
  const { keep, tryOut } = useDestinations();
  const [kind, setKind] = useState<Kind>(one?.place.kind ?? 'folder');
  const [security, setSecurity] = useState<(typeof SECURED)[number]['value']>(
    one?.place.kind === 'mail' ? (one.place.security ?? 'starttls') : 'starttls',
  );
  const [clash, setClash] = useState<'number' | 'ask'>(one?.clash ?? 'number');
  const [takes, setTakes] = useState<ReadonlySet<Taken>>(new Set(one?.takes.length ? one.takes : TAKES));
  const before = one?.place.kind === kind ? (one.place as Record<string, unknown>) : {};
  const say = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const text = (name: string) =>
      String(given.get(name) ?? '')
        .replaceAll('\r\n', '\n')
        .trim();
    const place = Object.fromEntries(
      FIELDS[kind].map(({ name, type }) => [name, type === 'number' ? Number(text(name)) : text(name)]),
    );
    const asked = {
      name: text('name'),
      place: {
        kind,
        ...place,
        ...(kind === 'mail' ? { recipients: addresses(text('recipients')), security } : {}),
        ...(kind === 'sftp' && before.host === place.host ? { host_key: before.host_key } : {}),
      },
      secret: text('secret') || null,
      pattern: text('pattern'),
      clash,
      takes: TAKES.length === takes.size ? [] : [...takes],
    } as DestinationAsked;
    keep.mutate(
      { id: one?.id, asked },
      {
        onSuccess: (made) => {
          onDone();
          tryOut.mutate(made.id);
        },
      },
    );
  };
  return (
    <form onSubmit={say} className="flex flex-col gap-3">
      {!one && (
        <Select
          label="Kind"
          value={kind}
          options={Object.entries(KINDS).map(([value, label]) => ({ value: value as Kind, label }))}
          onChange={setKind}
        />
      )}
      <Field label="Name" name="name" defaultValue={one?.name ?? ''} required maxLength={80} autoComplete="off" />
      <div className="grid grid-cols-2 gap-3">
        {FIELDS[kind].map(({ name, label, help, type = 'text', first = '', narrow }) =>
          type === 'lines' ? (
            <Lines key={`${kind} ${name}`} label={label} name={name} value={shown(before[name], first)} />
          ) : (
            <Field
              key={`${kind} ${name}`}
              label={label}
              name={name}
              type={type}
              {...(type === 'number' ? { step: 'any' } : {})}
              help={help}
              defaultValue={shown(before[name], first)}
              autoComplete="off"
              className={narrow ? '' : 'col-span-2'}
            />
          ),
        )}
      </div>
      {kind === 'mail' && <Select label="Secured by" value={security} options={SECURED} onChange={setSecurity} />}
      {SECRETS[kind] && (
        <Field
          label={SECRETS[kind]}
          name="secret"
          type="password"
          autoComplete="new-password"
          help={one?.has_secret ? 'One is kept; it stays where nothing is typed.' : undefined}
        />
      )}
      {one?.fingerprint && (
        <p className="text-small text-soft">
          Key of the machine <span className="font-mono break-all">{one.fingerprint}</span>
        </p>
      )}
      <Names
        label={kind === 'mail' ? 'Name of the attachment' : 'Names of files there'}
        pattern={one?.pattern ?? '{title}'}
        counter={one?.counter ?? 0}
        folders={kind !== 'mail'}
      />
      {kind !== 'mail' && (
        <Select
          label="A name that is taken there"
          value={clash}
          options={[
            { value: 'number', label: 'is numbered' },
            { value: 'ask', label: 'is put before a person' },
          ]}
          onChange={setClash}
        />
      )}
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1 text-small text-soft">What goes there</legend>
        {TAKES.map((what) => (
          <Check
            key={what}
            label={TAKES_WORDS[what]}
            value={takes.has(what)}
            onChange={(value) => {
              const next = new Set(takes);
              value ? next.add(what) : next.delete(what);
              setTakes(next);
            }}
          />
        ))}
      </fieldset>
      <Button
        kind="main"
        className="self-start"
        disabled={keep.isPending}
        why={takes.size === 0 && 'Say what goes there.'}
        type="submit"
      >
        Keep and try
      </Button>
    </form>
  );
}

function Lines({ label, name, value }: { label: string; name: string; value: string }) {
  const id = useId();
  return (
    <div className="col-span-2 flex flex-col gap-1">
      <label htmlFor={id} className="text-small text-soft">
        {label}
      </label>
      <textarea id={id} name={name} rows={3} defaultValue={value} className={`${INPUT} py-1.5`} />
    </div>
  );
}

function shown(value: unknown, first: string): string {
  if (Array.isArray(value)) return value.join(', ');
  return value === undefined || value === null ? first : String(value);
}
