import { useQuery } from '@tanstack/react-query';
import { useId } from 'react';
import { recipientsQuery, usePreviewed } from '@/api/dispatch';
import type { BoundDocument, Destination, MessageAsked } from '@/api/types';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { INPUT } from '@/ui/Field';
import { KeptField } from '@/ui/KeptField';
import { Loading } from '@/ui/States';
import { KINDS } from '@/words/dispatch';
import { bytes } from '@/words/figures';

export type GoingProps = {
  destination: Destination;
  documents: readonly BoundDocument[];
  /** As it was changed here; the destination's own where it was not. */
  message: MessageAsked | undefined;
  onMessage: (message: MessageAsked) => void;
};

/** What would go to a destination: the names there, and of mail the message, once more before it goes. */
export function Going({ destination, documents, message, onMessage }: GoingProps) {
  const { place } = destination;
  const ids = documents.map(({ id }) => id);
  const { data, error } = usePreviewed(destination.id, ids, message);
  return (
    <section aria-label={destination.name} className="flex flex-col gap-2">
      <h3 className="font-semibold">
        {destination.name} <span className="font-normal text-soft">{KINDS[place.kind]}</span>
      </h3>
      {place.kind === 'mail' && (
        <Message
          message={
            message ?? {
              recipients: place.recipients ?? [],
              subject: place.subject ?? '',
              text: place.text ?? '',
              link: false,
            }
          }
          onMessage={onMessage}
        />
      )}
      {error ? (
        <p role="alert" className="border-l-3 border-ink pl-3">
          {error.message}
        </p>
      ) : data ? (
        <table className="w-full border-collapse text-left">
          <thead className="text-small text-soft">
            <tr className="border-b border-hairline">
              <th className="py-1 pr-4 font-normal">
                {place.kind === 'mail' ? 'Subject and attachment' : 'Name there'}
              </th>
              <th className="py-1 text-right font-normal">Size</th>
            </tr>
          </thead>
          <tbody>
            {data.rows.map((row) => (
              <tr key={row.document} className="border-b border-hairline align-top">
                <td className="py-1.5 pr-4">
                  {place.kind === 'mail' && <span className="block">{row.subject || '(no subject)'}</span>}
                  <span className="font-mono text-small break-all">{row.name}</span>
                  {row.problem && <span className="block text-small">{row.problem}</span>}
                  {place.kind === 'mail' && (
                    <span className="mt-1 block border-l-3 border-hairline pl-3 text-small whitespace-pre-line text-soft">
                      {row.text}
                    </span>
                  )}
                </td>
                <td className="py-1.5 text-right font-mono text-small">
                  {row.bytes === null ? '–' : bytes(row.bytes)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <Loading label="Loading what would be sent" className="h-16" />
      )}
    </section>
  );
}

function Message({ message, onMessage }: { message: MessageAsked; onMessage: (message: MessageAsked) => void }) {
  const id = useId();
  const { data: known = [] } = useQuery(recipientsQuery);
  const others = known.filter((address) => !message.recipients.includes(address)).slice(0, OFFERED);
  return (
    <div className="grid max-w-2xl gap-2">
      <KeptField
        label="To"
        value={message.recipients.join(', ')}
        help="Addresses, with commas between them."
        disabled={false}
        onKeep={(text) => onMessage({ ...message, recipients: addresses(text) })}
      />
      {others.length > 0 && (
        <ul aria-label="Written to before" className="flex flex-wrap gap-1.5">
          {others.map((address) => (
            <li key={address}>
              <Button
                size="small"
                aria-label={`Write to ${address}, too`}
                onClick={() => onMessage({ ...message, recipients: [...message.recipients, address] })}
              >
                + {address}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <KeptField
        label="Subject"
        value={message.subject}
        disabled={false}
        onKeep={(subject) => onMessage({ ...message, subject })}
      />
      <div className="flex flex-col gap-1">
        <label htmlFor={id} className="text-small text-soft">
          Text; {'{title}, {pages}, {stack}, {date} and {identifier}'} are filled in
        </label>
        <textarea
          id={id}
          rows={3}
          defaultValue={message.text}
          onBlur={({ target }) => target.value !== message.text && onMessage({ ...message, text: target.value })}
          className={`${INPUT} py-1.5`}
        />
      </div>
      <Check
        label="A link in the place of the file, for 30 days"
        value={message.link ?? false}
        onChange={(link) => onMessage({ ...message, link })}
      />
    </div>
  );
}

/** So many people who were written to before are offered. */
const OFFERED = 6;

export const addresses = (text: string): string[] => text.split(/[,;\s]+/).filter(Boolean);
