import { useState } from 'react';
import { usePaperPath } from '@/api/paper';
import type { PaperPath, Station } from '@/api/types';
import { sourceOf } from '@/engine/capture/paper';
import type { PaperModel } from '@/hooks/usePaper';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Sheet } from '@/ui/Sheet';
import { EDGES, FACES, type PaperSource, PLACES, paperWords } from '@/words/paper';
import { PaperDrawing } from './PaperDrawing';

export type PaperQuestionProps = { paper: PaperModel; station: Station; source: PaperSource };

/** How paper goes into a source: said by hand, or shown by a printed sheet; asked before the first capture from it. */
export function PaperQuestion({ paper, station, source }: PaperQuestionProps) {
  const of = sourceOf(station, source);
  if (!of || !paper.asked) return null;
  return (
    <Sheet open onOpenChange={paper.close} title={`How does paper go in at ${station.name}?`} wide>
      <Answer paper={paper} station={station} source={source} first={of.paper ?? of.paper_proposed} />
    </Sheet>
  );
}

function Answer({ paper, station, source, first }: PaperQuestionProps & { first: PaperPath }) {
  const [path, setPath] = useState(first);
  const { keep } = usePaperPath();
  const goOn = paper.asked?.goOn;
  const leave = () => {
    paper.close();
    goOn?.();
  };
  const set = (change: Partial<PaperPath>) => setPath({ ...path, ...change });
  return (
    <div className="flex flex-col gap-5">
      {goOn && <p>Nobody has said so far. It is asked once, and shown here whenever this source is asked.</p>}
      <div className="flex flex-wrap gap-6">
        <PaperDrawing source={source} path={path} className="w-60 shrink-0 text-ink" />
        <div className="flex min-w-0 flex-1 basis-96 flex-col gap-3">
          <Row label="The side to capture">
            <Choice label="The side to capture" value={path.face} options={FACES} onChange={(face) => set({ face })} />
          </Row>
          <Row label={source === 'feeder' ? 'Goes in first' : 'To the back'}>
            <Choice
              label={source === 'feeder' ? 'Goes in first' : 'To the back'}
              value={path.edge}
              options={EDGES}
              onChange={(edge) => set({ edge })}
            />
          </Row>
          <Row label={source === 'feeder' ? 'The guides' : 'The mark'}>
            <Choice
              label={source === 'feeder' ? 'The guides' : 'The mark'}
              value={path.place}
              options={PLACES[source]}
              onChange={(place) => set({ place })}
            />
          </Row>
          <p role="status">{paperWords(source, path)}</p>
        </div>
      </div>
      <Trial station={station} source={source} onPath={setPath} />
      <div className="flex flex-wrap justify-end gap-2">
        {goOn && (
          <Button
            onClick={() => {
              paper.putItOff();
              leave();
            }}
          >
            Capture without saying
          </Button>
        )}
        <Button
          kind="main"
          autoFocus
          disabled={keep.isPending}
          onClick={() => keep.mutate({ station: station.id, source, path }, { onSuccess: leave })}
        >
          {goOn ? 'Keep, and capture' : 'Keep'}
        </Button>
      </div>
    </div>
  );
}

type TrialProps = { station: Station; source: PaperSource; onPath: (path: PaperPath) => void };

/** A sheet to print, and what it shows once it is captured. */
function Trial({ station, source, onPath }: TrialProps) {
  const { trial } = usePaperPath();
  const [laid, setLaid] = useState<PaperPath['face']>(source === 'platen' ? 'down' : 'up');
  const capture = () =>
    trial.mutate(
      { station: station.id, source, laid },
      {
        onSuccess: ({ path }) => {
          if (path) onPath(path);
          else if (source === 'feeder') setLaid(laid === 'up' ? 'down' : 'up');
        },
      },
    );
  const said = trial.isPending
    ? 'Capturing the test sheet …'
    : (trial.data?.sentence ??
      trial.error?.message ??
      `Lay it ${source === 'platen' ? 'on the glass' : 'in'} with its printed side ${laid}, the edge with the arrow ${source === 'platen' ? 'to the back, a corner at the mark' : 'first'}.`);
  return (
    <section aria-label="Test sheet" className="flex flex-col gap-2 border-t border-hairline pt-4">
      <h3 className="font-semibold">Not sure? A test sheet shows it</h3>
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-soft">Print it on</span>
        {['A5', 'A4', 'Letter'].map((size) => (
          <Button key={size} asChild size="small">
            <a href={`/api/v1/test-sheet?size=${size}`} download>
              {size}
            </a>
          </Button>
        ))}
        <Button size="small" disabled={trial.isPending} onClick={capture}>
          Capture the test sheet
        </Button>
      </div>
      <p role="status" className="min-h-11">
        {said}
      </p>
    </section>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <span aria-hidden="true" className="w-36 text-soft">
        {label}
      </span>
      {children}
    </div>
  );
}
