import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { stationsQuery } from '@/api/capture';
import { papersQuery, useSlips } from '@/api/intake';
import { treatmentsQuery } from '@/api/treatments';
import type { OrderSlip } from '@/api/types';
import { ASKS, type Draft, draftOf, jobOf, unfit, withAsked } from '@/engine/capture/slip';
import { fitting } from '@/engine/capture/wish';
import { notify } from '@/engine/notices';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Field } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { Word, Written } from '@/ui/Word';
import { ORIGINAL_WORDS, originalWords } from '@/words/original';
import { AfterWord } from './AfterWord';
import { OriginalFields } from './OriginalFields';
import { SendTo } from './SendTo';
import { SlipLine } from './SlipLine';
import { SlipNaming } from './SlipNaming';
import { SlipTools } from './SlipTools';

/** Stands in the sentence until another station is chosen. */
const GONE = 'gone';

export type SlipSheetProps = {
  /** What it says at first. */
  first: Draft | undefined;
  /** The kept slip that is opened; undefined for a new one. */
  slip?: OrderSlip;
  onLeave: () => void;
};

/** An order slip read as its sentence, each piece of it a control: kept, changed, copied, tried dry. */
export function SlipSheet({ first, slip, onLeave }: SlipSheetProps) {
  const { data: papers } = useQuery(papersQuery);
  return (
    <Sheet open onOpenChange={onLeave} title={slip ? 'Order slip' : 'Keep as an order slip'} wide>
      {papers && (
        <Saying
          key={slip?.id}
          first={first ?? (slip ? draftOf(slip, papers) : undefined)}
          {...(slip ? { slip } : {})}
          onLeave={onLeave}
        />
      )}
    </Sheet>
  );
}

function Saying({ first, slip, onLeave }: SlipSheetProps) {
  const [draft, setDraft] = useState(first);
  const { data: stations = [] } = useQuery(stationsQuery);
  const { data: papers = [] } = useQuery(papersQuery);
  const { data: treatments = [] } = useQuery(treatmentsQuery);
  const { save, change } = useSlips();
  if (!draft) return null;
  const station = stations.find(({ id }) => id === draft.wish.station) ?? (slip ? undefined : stations[0]);
  const set = (more: Partial<Draft>) => setDraft({ ...draft, ...more });
  const why = unfit(draft);
  const changed = JSON.stringify(draft) !== JSON.stringify(first);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const job = jobOf(draft, papers);
    if (!job || why) return;
    const kept = (one: OrderSlip, words: string) => {
      onLeave();
      notify(`The order slip “${one.name}” ${words}`);
    };
    if (slip) change.mutate({ id: slip.id, job }, { onSuccess: (one) => kept(one, 'is changed.') });
    else
      save.mutate(job, {
        onSuccess: (one) => kept(one, 'is on the shelf. One press there does all of it.'),
      });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-5">
      <Field
        label="Name of the slip"
        maxLength={80}
        value={draft.name}
        onChange={({ target }) => set({ name: target.value })}
        autoFocus
      />
      <div className="rounded-sm border border-b-2 border-slip-line bg-slip px-4 py-3">
        {station ? (
          <SlipLine
            stations={stations}
            station={station}
            papers={papers}
            wish={draft.wish}
            onWish={(wish) => set({ wish })}
            frames={[]}
            onNoFrames={() => undefined}
            page={undefined}
            kept
          />
        ) : (
          <p className="text-title leading-8">
            Its station is not there any more. Take{' '}
            <Word
              label="Station"
              value={GONE}
              options={[
                { value: GONE, label: 'another station', disabled: true },
                ...stations.map(({ id, name }) => ({ value: String(id), label: name })),
              ]}
              onChange={(id) =>
                set({
                  wish: fitting(
                    draft.wish,
                    stations.find((one) => one.id === Number(id)),
                  ),
                })
              }
            />
            .
          </p>
        )}
        <p className="mt-1.5 leading-7">
          Then{' '}
          <Word
            label="Treatment"
            value={draft.treatment}
            options={treatments
              .filter(({ offered, name }) => offered || name === draft.treatment)
              .map(({ name }) => ({ value: name, label: name }))}
            onChange={(treatment) => set({ treatment })}
          />{' '}
          corrects them; documents begin after <AfterWord rule={draft} onChange={set} />; papers:{' '}
          <Written label="The papers" text={originalWords(draft.original)}>
            <p className="mb-2 text-small text-soft">Where that is always the same. It can be asked for too.</p>
            <OriginalFields original={draft.original} onChange={(original) => set({ original })} />
          </Written>
          . All is read and bound, and sent <SendTo chosen={draft.send_to} onChange={(send_to) => set({ send_to })} />.
        </p>
      </div>
      <div className="grid gap-5 sm:grid-cols-2">
        <SlipNaming draft={draft} slip={slip?.id} onNaming={(naming) => set({ naming })} />
        <fieldset>
          <legend className="mb-1 text-small text-soft">Asks before the first sheet, once</legend>
          <div className="grid grid-cols-2 gap-x-4">
            {ASKS.map((one) => (
              <Check
                key={one}
                label={ORIGINAL_WORDS[one]}
                value={draft.asks.includes(one)}
                onChange={(on) => set({ asks: withAsked(draft.asks, one, on) })}
              />
            ))}
          </div>
        </fieldset>
      </div>
      <Check label="Others see it too, and can start it" value={draft.shared} onChange={(shared) => set({ shared })} />
      <div className="flex flex-wrap items-end justify-end gap-2">
        {slip && <SlipTools slip={slip} changed={changed} onLeave={onLeave} />}
        <Button kind="main" type="submit" disabled={save.isPending || change.isPending} {...(why ? { why } : {})}>
          Keep
        </Button>
      </div>
    </form>
  );
}
