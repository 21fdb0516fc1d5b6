import { useMutation } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, told } from '@/api/client';
import type { TreatmentSettings } from '@/api/treatments';
import { Button } from '@/ui/Button';
import { PageChoice } from '@/ui/PageChoice';
import { figure } from '@/words/figures';
import { useSamples } from './Samples';

export type CalibratingProps = { settings: TreatmentSettings; onChange: (settings: TreatmentSettings) => void };

/** The device's profile, from the page of a stack that shows a colour target and the file of its patches. */
export function Calibrating({ settings, onChange }: CalibratingProps) {
  const { stack, pages = [] } = useSamples();
  const [chosen, setChosen] = useState<number>();
  const file = useId();
  const page = pages.find(({ id }) => id === chosen) ?? pages[0];
  const measure = useMutation({
    mutationFn: async (patches: File) =>
      told(
        api.POST('/api/v1/pages/{page_id}/calibration', {
          params: { path: { page_id: page?.id ?? 0 } },
          body: { patches: await patches.text(), name: page?.source.slice(0, 80) ?? '' },
        }),
      ),
    onSuccess: (calibration) => onChange({ ...settings, calibration }),
  });
  const { calibration } = settings;
  return (
    <fieldset className="flex flex-col gap-2.5 border-b border-hairline px-5 py-4">
      <legend className="float-left mb-1 w-full font-semibold">Calibration</legend>
      {calibration ? (
        <>
          <dl className="grid grid-cols-[1fr_auto] gap-x-3 gap-y-0.5">
            <dt className="text-soft">By</dt>
            <dd className="truncate text-right">{calibration.name}</dd>
            <dt className="text-soft">Patches</dt>
            <dd className="text-right font-mono">{calibration.patches}</dd>
            <dt className="text-soft">ΔE2000 before, mean and worst</dt>
            <dd className="text-right font-mono">{pair(calibration.before)}</dd>
            <dt className="text-soft">and after</dt>
            <dd className="text-right font-mono">{pair(calibration.after)}</dd>
          </dl>
          <div className="grid grid-cols-2 gap-2">
            <Button asChild>
              <a href={`data:application/vnd.iccprofile;base64,${calibration.icc}`} download="device.icc">
                Save the profile
              </a>
            </Button>
            <Button onClick={() => onChange({ ...settings, calibration: null })}>Remove it</Button>
          </div>
        </>
      ) : (
        <>
          <p className="text-small text-soft">
            Capture a colour target as a page, set its corners on the bench to the outer corners of its patches, and
            choose the file that came with it.
          </p>
          {page && stack ? (
            <>
              <PageChoice
                label={`Page with the target, in ${stack.name}`}
                pages={pages}
                chosen={page}
                onChoose={setChosen}
              />
              <label htmlFor={file} className="text-small text-soft">
                Patch file (CGATS text with L*a*b*)
              </label>
              <input
                id={file}
                type="file"
                accept=".txt,.cgats,.cie,.it8,text/plain"
                disabled={measure.isPending}
                onChange={({ target }) => {
                  const [patches] = target.files ?? [];
                  if (patches) measure.mutate(patches);
                  target.value = '';
                }}
                className="text-small"
              />
            </>
          ) : (
            <p className="text-small">No stack has a page yet.</p>
          )}
          {measure.isPending && <p role="status">Comparing patches …</p>}
          {measure.error && <p role="alert">{measure.error.message}</p>}
        </>
      )}
    </fieldset>
  );
}

const pair = ([mean, worst]: readonly [number, number] | readonly number[]) =>
  `${figure(mean ?? 0, 1)} · ${figure(worst ?? 0, 1)}`;
