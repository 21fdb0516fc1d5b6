import { type FormEvent, useState } from 'react';
import { useSlips } from '@/api/intake';
import type { PaperSize, Stack, Station } from '@/api/types';
import { resolutionWords, settingsOf, type Wish } from '@/engine/capture/wish';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { notify } from '@/ui/Notices';
import { Sheet } from '@/ui/Sheet';

export type SaveSlipProps = { wish: Wish; station: Station; stack: Stack; papers: readonly PaperSize[] };

/** Keeps what is asked of the station, and what becomes of the pages, as an order slip. */
export function SaveSlip({ wish, station, stack, papers }: SaveSlipProps) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [naming, setNaming] = useState('');
  const { save } = useSlips();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const settings = settingsOf(
      { ...wish, place: 'end', sheets: '' },
      { frames: [], page: undefined, half: '', papers },
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
          notify(`The order slip “${slip.name}” is on the shelf: one press there captures, corrects, reads and binds.`);
        },
      },
    );
  };
  const apart = wish.source === 'feeder' && wish.sides === 'apart';
  return (
    <div>
      <Button kind="quiet" className="-ml-3 h-7!" disabled={apart} onClick={() => setOpen(true)}>
        Save as an order slip …
      </Button>
      {apart && <p className="text-small text-soft">Fronts and backs apart need a hand in between.</p>}
      <Sheet open={open} onOpenChange={setOpen} title="Save as an order slip">
        <form onSubmit={submit} className="flex flex-col gap-3">
          <p>
            One press starts a new stack, captures, corrects, reads and binds it as it is set now: {station.name},{' '}
            {wish.source === 'platen' ? 'glass' : wish.sides === 'both' ? 'feeder, both sides' : 'feeder'},{' '}
            {resolutionWords(wish.ppi)}, {wish.colour}; treatment {stack.treatment}; new document after{' '}
            {stack.new_document_after}.
          </p>
          <Field label="Name" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} autoFocus />
          <Field
            label="Stacks and documents are named"
            maxLength={120}
            placeholder={`${name.trim() || 'Letters'} {date} {number}`}
            help="{date} and {number} are filled in. A slip of the same name is written over."
            value={naming}
            onChange={(e) => setNaming(e.target.value)}
          />
          <Button kind="main" type="submit" className="self-end" disabled={!name.trim() || save.isPending}>
            Save
          </Button>
        </form>
      </Sheet>
    </div>
  );
}
