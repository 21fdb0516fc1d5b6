import { useQuery } from '@tanstack/react-query';
import { Link } from 'wouter';
import { destinationsQuery } from '@/api/dispatch';
import { Check } from '@/ui/Check';
import { Written } from '@/ui/Word';
import { KINDS } from '@/words/dispatch';
import { counted } from '@/words/figures';

export type SendToProps = { chosen: readonly number[]; onChange: (chosen: number[]) => void };

/** Where what is bound goes: a piece of the slip's sentence. */
export function SendTo({ chosen, onChange }: SendToProps) {
  const { data: destinations = [] } = useQuery(destinationsQuery);
  const named = destinations.filter(({ id }) => chosen.includes(id)).map(({ name }) => name);
  const text =
    named.length === 0
      ? 'nowhere'
      : named.length < 3
        ? `to ${named.join(' and ')}`
        : `to ${counted(named.length, 'destination')}`;
  return (
    <Written label="Sent" text={text}>
      {destinations.length === 0 && (
        <p>
          There is no destination yet.{' '}
          <Link href="/destinations" className="underline">
            All destinations
          </Link>
        </p>
      )}
      {destinations.map(({ id, name, place }) => (
        <Check
          key={id}
          label={`${name}, ${KINDS[place.kind]}`}
          value={chosen.includes(id)}
          onChange={(on) => onChange(on ? [...chosen, id] : chosen.filter((one) => one !== id))}
        />
      ))}
    </Written>
  );
}
