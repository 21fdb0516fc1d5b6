import { Link } from 'wouter';
import { Key } from '@/ui/Key';
import { count } from '@/words/figures';

export type InspectPlacesProps = { stackId: number; at: 'findings' | 'sample'; findings: number };

/** The two parts of inspecting: going through what was found, and a sample of everything. */
export function InspectPlaces({ stackId, at, findings }: InspectPlacesProps) {
  const base = `/stacks/${stackId}`;
  return (
    <nav aria-label="Inspect" className="flex shrink-0 items-stretch gap-5 border-b border-hairline px-7">
      <Place href={`${base}/inspect`} here={at === 'findings'} hint={count(findings)} shortcut="q">
        Findings
      </Place>
      <Place href={`${base}/sample`} here={at === 'sample'} shortcut="s">
        Sample and signature
      </Place>
    </nav>
  );
}

type PlaceProps = { href: string; here: boolean; hint?: string; shortcut: string; children: string };

function Place({ href, here, hint, shortcut, children }: PlaceProps) {
  return (
    <Link
      href={href}
      aria-current={here ? 'page' : undefined}
      className={`flex min-h-9 items-center gap-2 border-b-2 ${here ? 'border-accent font-semibold' : 'border-transparent text-soft hover:text-ink'}`}
    >
      {children}
      {hint && <span className="font-mono text-small font-normal">{hint}</span>}
      {!here && <Key of={shortcut} />}
    </Link>
  );
}
