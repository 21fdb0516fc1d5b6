import { useKept } from '@/hooks/useKept';
import { Button } from '@/ui/Button';
import { Cross } from '@/ui/signs';
import { STEPS } from '@/words/guide';

/** A short way through the demo, a step at a time; put away, it stays away. */
export function Guide() {
  const [{ step, away }, keep] = useKept('guide', { step: 0, away: false });
  const now = STEPS[step];
  if (away || !now) return null;
  const last = step === STEPS.length - 1;
  return (
    <aside
      aria-label="Take it through"
      className="fixed right-4 bottom-4 z-30 flex w-84 print:hidden max-w-[92vw] flex-col gap-2 rounded-sm border border-b-2 border-slip-line bg-slip px-4 py-3 shadow-lifted"
    >
      <div className="flex items-baseline gap-2">
        <h2 className="flex-1 font-semibold">{now.title}</h2>
        <span className="font-mono text-small text-soft">
          {step + 1}/{STEPS.length}
        </span>
        <Button
          kind="quiet"
          size="small"
          aria-label="Put the short way away"
          onClick={() => keep({ step, away: true })}
        >
          <Cross />
        </Button>
      </div>
      <p>{now.text}</p>
      <div className="flex justify-between gap-2">
        <Button kind="quiet" size="small" disabled={step === 0} onClick={() => keep({ step: step - 1, away: false })}>
          Back
        </Button>
        <Button size="small" onClick={() => keep(last ? { step: 0, away: true } : { step: step + 1, away: false })}>
          {last ? 'Done' : 'Next'}
        </Button>
      </div>
    </aside>
  );
}
