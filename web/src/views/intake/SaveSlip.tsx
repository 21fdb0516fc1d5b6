import { type FormEvent, useState } from 'react';
import { useSlips } from '@/api/intake';
import type { PaperSize, Stack, Station } from '@/api/types';
import { resolutionWords, settingsOf, type Wish } from '@/engine/capture/wish';
import { notify } from '@/engine/notices';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { COLOUR_WORDS } from '@/words/colours';

export type SaveSlipProps = { wish: Wish; station: Station; stack: Stack | undefined; papers: readonly PaperSize[] };

/** Keeps what is asked of the station, and what becomes of the pages, as an order slip. */
export function SaveSlip({ wish, station, stack, papers }: SaveSlipProps) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [naming, setNaming] = useState('');
  const { save } = useSlips();
  const apart = wish.source === 'feeder' && wish.sides === 'apart';
  const why = !stack ? 'Begin the stack first.' : apart ? 'Fronts and backs apart need a hand in between.' : undefined;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!stack || !name.trim()) return;
    const settings = settingsOf(
      { ...wish, place: 'end', sheets: '' },
      { frames: [], page: undefined, half: '', backs: 0, quarter: 0, papers },
    );
    save.mutate(
      {
        name,
        naming,
        station: station.id,
        settings,
        treatment: stack.treatment,
        new_document_after: stack.new_document_after,
      },
      {
        onSuccess: (slip) => {
          setOpen(false);
          notify(`The order slip “${slip.name}” is on the shelf. One press there captures, corrects, reads and binds.`);
        },
      },
    );
  };
  return (
    <>
      <Button {...(why ? { why } : {})} onClick={() => setOpen(true)}>
        Keep as a slip …
      </Button>
      {stack && (
        <Sheet open={open} onOpenChange={setOpen} title="Keep as an order slip">
          <form onSubmit={submit} className="flex flex-col gap-4">
            <p>
              An order slip is a saved capture job. One press starts a new stack, captures, corrects, reads and binds it
              as it is set now: {station.name},{' '}
              {wish.source === 'platen' ? 'glass' : wish.sides === 'both' ? 'feeder, both sides' : 'feeder'},{' '}
              {resolutionWords(wish.ppi)}, {COLOUR_WORDS[wish.colour]}; treatment {stack.treatment}; new document after{' '}
              {stack.new_document_after}.
            </p>
            <Field
              label="Name of the slip"
              maxLength={80}
              value={name}
              onChange={({ target }) => setName(target.value)}
              autoFocus
            />
            <Field
              label="Stacks and documents are named"
              maxLength={120}
              placeholder={`${name.trim() || 'Letters'} {date} {number}`}
              help="{date} and {number} are filled in. A slip of the same name is written over."
              value={naming}
              onChange={({ target }) => setNaming(target.value)}
            />
            <div className="flex justify-end">
              <Button
                kind="main"
                type="submit"
                disabled={save.isPending}
                why={name.trim() ? '' : 'Give the slip a name.'}
              >
                Keep
              </Button>
            </div>
          </form>
        </Sheet>
      )}
    </>
  );
}
