import type { Sample, Signing } from '@/api/types';
import { count, when } from '@/words/figures';
import { Records } from './Records';

/** Samples that were decided, and signatures that were given, the last first. */
export function Past({ signing }: { signing: Signing }) {
  const decided = signing.samples.filter(({ state }) => state !== 'open');
  const reopened = signing.signatures.filter(({ reopened_at }) => reopened_at !== null);
  if (decided.length + reopened.length === 0) return null;
  return (
    <section aria-labelledby="past" className="flex flex-col gap-2 border-t border-hairline px-7 py-5">
      <h2 id="past" className="font-semibold">
        Before
      </h2>
      <ul>
        {reopened.map((one) => (
          <li key={`s${one.id}`} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hairline py-2">
            <span className="w-56 shrink-0 font-mono text-small text-soft">{when(one.reopened_at ?? one.at)}</span>
            <span className="min-w-0 flex-1">
              {one.reopened_by} opened again what {one.by} had signed for:{' '}
              <span className="text-soft">{one.reopened_why}</span>
            </span>
            <Records signature={one} />
          </li>
        ))}
        {decided.map((one) => (
          <li key={one.id} className="flex flex-wrap gap-x-4 gap-y-1 border-b border-hairline py-2">
            <span className="w-56 shrink-0 font-mono text-small text-soft">{when(one.decided_at ?? one.at)}</span>
            <span className="min-w-0 flex-1">
              {one.state === 'accepted' ? 'Accepted' : one.returned ? 'Given back' : 'Not accepted'} by {one.decided_by}
              :{' '}
              <span className="text-soft">
                {lotWords(one)}, {count(one.pages.length)} looked at, {count(one.bad)} bad
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const lotWords = (one: Sample) =>
  one.first === null ? `the stack of ${count(one.lot)} pages` : `a document of ${count(one.lot)} pages`;
