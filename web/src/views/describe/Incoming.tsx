import type { TablePlan } from '@/api/types';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { describedWords, STATEMENT_WORDS } from '@/words/describing';
import { counted } from '@/words/figures';

export type IncomingProps = { name: string; plan: TablePlan; busy: boolean; onTake: () => void; onClose: () => void };

/** So many lines are shown; the figures are of all. */
const SHOWN = 300;

/** What a file would change, line by line, before it does: what is refused first, with the reason. */
export function Incoming({ name, plan, busy, onTake, onClose }: IncomingProps) {
  const refused = plan.lines.filter((line) => line.refused);
  const changed = plan.lines.filter(({ changes }) => changes.length > 0);
  const same = plan.lines.length - refused.length - changed.length;
  const said = [
    changed.length && `${describedWords(changed)} described anew`,
    same && `${counted(same, 'line')} that change nothing`,
    refused.length && `${counted(refused.length, 'line')} not taken`,
  ].filter(Boolean);
  return (
    <Sheet open wide title={`What ${name} changes`} onOpenChange={(open) => !open && onClose()}>
      <div className="flex flex-col gap-4">
        <p>{said.join(', ') || 'The file has no line behind its head.'}.</p>
        {plan.left.length > 0 && <p className="text-soft">Columns that mean nothing here: {plan.left.join(', ')}.</p>}
        {refused.length > 0 && (
          <ul aria-label="Lines not taken" className="flex flex-col gap-1">
            {refused.slice(0, SHOWN).map((line) => (
              <li
                key={line.line}
                className="grid grid-cols-[5rem_1fr] gap-3 border-l-4 border-fail bg-slip px-3 py-1.5"
              >
                <span className="font-mono text-small">line {line.line}</span>
                <span>{line.refused}</span>
              </li>
            ))}
          </ul>
        )}
        {changed.length > 0 && (
          <ul aria-label="What changes" className="flex flex-col">
            {changed.slice(0, SHOWN).map((line) => (
              <li key={line.line} className="grid grid-cols-[5rem_1fr] gap-3 border-t border-hairline px-3 py-2">
                <span className="font-mono text-small text-soft">line {line.line}</span>
                <div className="flex min-w-0 flex-col gap-0.5">
                  <span className="truncate font-semibold">
                    {line.whole ? 'The whole stack' : `${line.document}. ${line.title}`}
                  </span>
                  <dl className="grid grid-cols-[7rem_1fr] gap-x-3 text-small">
                    {line.changes.map(({ name: of, before, after }) => (
                      <div key={of} className="contents">
                        <dt className="text-soft">{STATEMENT_WORDS[of] ?? of}</dt>
                        <dd className="min-w-0 break-words">
                          {before && <del className="text-soft">{before}</del>}{' '}
                          {after ? <ins className="no-underline">{after}</ins> : <em>emptied</em>}
                        </dd>
                      </div>
                    ))}
                  </dl>
                </div>
              </li>
            ))}
          </ul>
        )}
        {Math.max(changed.length, refused.length) > SHOWN && (
          <p className="text-soft">Only the first {SHOWN} are shown.</p>
        )}
        <div className="flex gap-3">
          <Button kind="main" disabled={busy || changed.length === 0} onClick={onTake}>
            {changed.length ? `Describe ${describedWords(changed)} so` : 'Nothing changes'}
          </Button>
          <Button onClick={onClose}>Leave as they are</Button>
        </div>
      </div>
    </Sheet>
  );
}
