import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation } from 'wouter';
import { useMay } from '@/api/people';
import {
  formQuery,
  settingsQuery,
  type TreatmentInfo,
  type TreatmentSettings,
  treatmentsQuery,
  useVersions,
} from '@/api/treatments';
import { draftOf, keepDraft } from '@/engine/treatments/drafts';
import { groupsOf } from '@/engine/treatments/settings';
import { useCommands } from '@/hooks/useCommands';
import { useView } from '@/hooks/useView';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Failed, Loading } from '@/ui/States';
import { Title, TopBar } from '@/ui/TopBar';
import { when } from '@/words/figures';
import { Calibrating } from './Calibrating';
import { Samples } from './Samples';
import { SettingsForm } from './SettingsForm';

export type TreatmentsViewProps = { user: string; name: string };

/** All treatments; one of them with its settings, and three pages as these would have them. */
export function TreatmentsView({ user, name }: TreatmentsViewProps) {
  const [, go] = useLocation();
  const main = useView<HTMLDivElement>('Treatments');
  const { data: treatments, error, refetch } = useQuery(treatmentsQuery);
  const chosen = treatments?.find((one) => one.name === name) ?? treatments?.[0];
  useCommands([{ name: 'back', label: 'Back to the shelf', key: 'Escape', subject: 'Go to', perform: () => go('/') }]);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar user={user} title={<Title>Treatments</Title>} />
      {error && !treatments ? (
        <main ref={main} id="main" tabIndex={-1} className="flex flex-1 outline-none">
          <Failed message={error.message} retry={() => refetch()} />
        </main>
      ) : !treatments || !chosen ? (
        <Loading label="Loading treatments" className="m-6 h-[60%]" />
      ) : (
        <div ref={main} id="main" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none lg:flex-row">
          <nav aria-label="Treatments" className="w-full shrink-0 overflow-y-auto border-r border-hairline lg:w-60">
            <ul>
              {treatments.map((one) => (
                <li key={one.name}>
                  <Link
                    href={`/treatments/${encodeURIComponent(one.name)}`}
                    aria-current={one.name === chosen.name ? 'page' : undefined}
                    className={`flex flex-col border-b border-hairline border-l-3 py-2.5 pr-4 pl-4 ${one.name === chosen.name ? 'border-l-accent bg-panel' : 'border-l-transparent hover:bg-hover'}`}
                  >
                    <span className="flex items-baseline justify-between gap-2">
                      <span className={`truncate ${one.name === chosen.name ? 'font-semibold' : ''}`}>{one.name}</span>
                      <span className="shrink-0 text-small text-soft">
                        {one.offered ? versionWords(one.version) : 'withdrawn'}
                      </span>
                    </span>
                    <span className="text-small text-soft">{one.purpose}</span>
                  </Link>
                </li>
              ))}
            </ul>
          </nav>
          <Editing key={chosen.name} treatment={chosen} />
        </div>
      )}
    </div>
  );
}

const versionWords = (version: number) => (version === 0 ? 'supplied' : `version ${version}`);

function Editing({ treatment }: { treatment: TreatmentInfo }) {
  const [draft] = useState(() => draftOf(treatment.name));
  const [version, setVersion] = useState<number | undefined>(draft?.version);
  const { data: form } = useQuery(formQuery);
  const { data: saved, error, refetch } = useQuery(settingsQuery(treatment.name, version ?? treatment.version));
  const [edited, setEdited] = useState<TreatmentSettings | undefined>(draft?.settings);
  if (error) return <Failed message={error.message} retry={() => refetch()} />;
  if (!form || !saved) return <Loading label="Loading the settings" className="m-5 h-[60%] flex-1" />;
  const settings = edited ?? saved;
  const change = (next: TreatmentSettings | undefined) => {
    setEdited(next);
    keepDraft(treatment.name, next && { version: version ?? treatment.version, settings: next });
  };
  return (
    <>
      <Settings
        treatment={treatment}
        settings={settings}
        changed={edited !== undefined && JSON.stringify(edited) !== JSON.stringify(saved)}
        shown={version ?? treatment.version}
        onVersion={(next) => {
          setVersion(next);
          change(undefined);
        }}
        onChange={change}
        form={
          <>
            <SettingsForm groups={groupsOf(form)} settings={settings} onChange={change} />
            <Calibrating settings={settings} onChange={change} />
          </>
        }
      />
      <main className="on-surround flex min-h-[60vh] min-w-0 flex-1 flex-col bg-surround lg:min-h-0">
        <Samples settings={settings} />
      </main>
    </>
  );
}

type SettingsProps = {
  treatment: TreatmentInfo;
  settings: TreatmentSettings;
  changed: boolean;
  shown: number;
  onVersion: (version: number | undefined) => void;
  onChange: (settings: TreatmentSettings | undefined) => void;
  form: React.ReactNode;
};

function Settings({ treatment, settings, changed, shown, onVersion, onChange, form }: SettingsProps) {
  const [, go] = useLocation();
  const { save, turn } = useVersions();
  const may = useMay('work');
  const newest = treatment.versions.find(({ taken_back }) => !taken_back);
  const backs = treatment.versions.filter(({ taken_back }) => taken_back);
  const known = [
    ...treatment.versions.filter(({ taken_back }) => !taken_back).map(({ version }) => version),
    ...(treatment.shipped ? [0] : []),
  ];
  const old = shown !== treatment.version;
  const asNew = settings.name.trim() !== treatment.name;
  const keep = () =>
    save.mutate(settings, {
      onSuccess: (made) => {
        onChange(undefined);
        onVersion(undefined);
        go(`/treatments/${encodeURIComponent(made.name)}`);
      },
    });
  const about = treatment.versions.find(({ version }) => version === shown);
  return (
    <form
      aria-label={`Settings of ${treatment.name}`}
      className="flex w-full shrink-0 flex-col border-r border-hairline bg-panel lg:w-92 2xl:w-112"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="flex flex-col gap-3 border-b border-hairline px-5 py-4">
          <Field
            label="Name (another one makes a new treatment)"
            value={settings.name}
            maxLength={80}
            required
            onChange={({ target }) => onChange({ ...settings, name: target.value })}
          />
          <Field
            label="Purpose, in one line"
            value={settings.purpose}
            maxLength={160}
            onChange={({ target }) => onChange({ ...settings, purpose: target.value })}
          />
          <Select
            inline
            label="Version"
            value={String(shown)}
            options={known.map((one) => ({ value: String(one), label: versionWords(one) }))}
            onChange={(one) => onVersion(Number(one))}
          />
          {about && (
            <p className="text-small text-soft">
              Saved by {about.by}, {when(about.at)}
            </p>
          )}
        </div>
        {form}
      </div>
      <div className="flex flex-col gap-2 border-t border-hairline p-4">
        {(save.error ?? turn.error) && <p role="alert">{(save.error ?? turn.error)?.message}</p>}
        {changed && (
          <p role="status" className="text-small text-soft">
            Changes are kept in this browser until they are saved or discarded.
          </p>
        )}
        {may ? (
          <>
            <div className="flex flex-wrap gap-2">
              <Button
                type="submit"
                kind="main"
                disabled={save.isPending || !(changed || old)}
                {...(settings.name.trim() ? {} : { why: 'Give it a name.' })}
              >
                {asNew ? 'Save as a new treatment' : 'Save as the next version'}
              </Button>
              <Button disabled={!changed} onClick={() => onChange(undefined)}>
                Discard changes
              </Button>
            </div>
            {newest && (
              <Button
                size="small"
                disabled={turn.isPending}
                onClick={() => {
                  onVersion(undefined);
                  onChange(undefined);
                  turn.mutate({ way: 'take-back', name: treatment.name, version: newest.version });
                }}
              >
                Withdraw version {newest.version}
              </Button>
            )}
            {backs.map(({ version }) => (
              <Button
                key={version}
                kind="quiet"
                size="small"
                disabled={turn.isPending}
                onClick={() => turn.mutate({ way: 'bring-back', name: treatment.name, version })}
              >
                Restore version {version}
              </Button>
            ))}
          </>
        ) : (
          <p className="text-small text-soft">Only technicians and administrators save treatments.</p>
        )}
        <p className="text-small text-soft">Stacks keep the version that they were given.</p>
      </div>
    </form>
  );
}
