import { type FormEvent, useState } from 'react';
import { useStations } from '@/api/capture';
import type { Station } from '@/api/types';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Pop } from '@/ui/Pop';

/** What stations are called and where they stand; which is which; and one more by its address. */
export function StationList({ stations }: { stations: readonly Station[] }) {
  const [address, setAddress] = useState('');
  const { add, describe, mark, forget } = useStations();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (address.trim()) add.mutate(address, { onSuccess: () => setAddress('') });
  };
  return (
    <Pop
      label="Stations"
      className="w-116"
      trigger={
        <Button kind="quiet" size="small" className="self-center">
          {stations.length ? 'Stations …' : 'Add a station …'}
        </Button>
      }
    >
      <ul className="flex flex-col">
        {stations.map((station) => (
          <li key={station.id} aria-label={station.name} className="flex flex-col gap-2 border-b border-hairline pb-3">
            <div className="flex gap-2 pt-2">
              <Kept
                label="Name"
                value={station.name}
                onKeep={(name) => describe.mutate({ id: station.id, name })}
                required
              />
              <Kept
                label="Where it stands"
                value={station.place}
                placeholder="by the window"
                onKeep={(place) => describe.mutate({ id: station.id, place })}
              />
            </div>
            <div className="flex flex-wrap items-center gap-2">
              <Button size="small" disabled={mark.isPending} onClick={() => mark.mutate(station.id)}>
                Which one is it?
              </Button>
              <Button kind="quiet" size="small" onClick={() => forget(station.id)}>
                Forget it
              </Button>
              {mark.variables === station.id && (
                <p role="status" className="basis-full text-small">
                  {mark.isPending ? 'Asking the station …' : (mark.data?.sentence ?? mark.error?.message)}
                </p>
              )}
            </div>
          </li>
        ))}
      </ul>
      <form onSubmit={submit} className="flex items-end gap-2 pt-3">
        <Field
          label="Another one, by its address"
          placeholder="http://192.0.2.7"
          className="flex-1"
          value={address}
          onChange={({ target }) => setAddress(target.value)}
        />
        <Button type="submit" disabled={add.isPending} {...(address.trim() ? {} : { why: 'Write its address.' })}>
          {add.isPending ? 'Asking …' : 'Add'}
        </Button>
      </form>
    </Pop>
  );
}

type KeptProps = {
  label: string;
  value: string;
  placeholder?: string;
  required?: boolean;
  onKeep: (value: string) => void;
};

/** A line that is kept when it is left; empty where it must not be, it is what it was. */
function Kept({ label, value, placeholder, required = false, onKeep }: KeptProps) {
  const [written, setWritten] = useState<string>();
  const leave = () => {
    const next = written?.trim();
    if (next !== undefined && next !== value && (next || !required)) onKeep(next);
    setWritten(undefined);
  };
  return (
    <Field
      label={label}
      className="min-w-0 flex-1"
      maxLength={80}
      value={written ?? value}
      {...(placeholder ? { placeholder } : {})}
      onChange={({ target }) => setWritten(target.value)}
      onBlur={leave}
      onKeyDown={({ key, currentTarget }) => key === 'Enter' && currentTarget.blur()}
    />
  );
}
