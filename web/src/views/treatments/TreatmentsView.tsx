import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation } from 'wouter';
import {
  formQuery,
  settingsQuery,
  type TreatmentInfo,
  type TreatmentSettings,
  treatmentsQuery,
  useVersions,
} from '@/api/treatments';
import { groupsOf } from '@/engine/treatments/settings';
import { useCommands } from '@/hooks/useCommands';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Failed, Loading } from '@/ui/States';
import { TopBar } from '@/ui/TopBar';
import { when } from '@/words/figures';
import { Calibrating } from './Calibrating';
import { Samples } from './Samples';
import { SettingsForm } from './SettingsForm';

export type TreatmentsViewProps = { user: string; name: string };

/** All treatments; one of them with its settings, and three pages as these would have them. */
export function TreatmentsView({ user, name }: TreatmentsViewProps) {
  const [, go] = useLocation();
  const { data: treatments, error, refetch } = useQuery(treatmentsQuery);
  const chosen = treatments?.find((one) => one.name === name) ?? treatments?.[0];
  useCommands([{ name: 'back', label: 'Back to the shelf', key: 'Escape', perform: () => go('/') }]);
  return (
    <div className="flex h-full flex-col">
      <TopBar user={user} title="Treatments" />
      {error && !treatments ? (
        <Failed message={error.message} retry={() => refetch()} />
      ) : !treatments || !chosen ? (
        <Loading label="Loading treatments" className="m-5 h-[60%]" />
      ) : (
        <div className="flex min-h-0 flex-1">
          <nav aria-label="Treatments" className="w-[236px] shrink-0 overflow-y-auto border-r border-hairline">
            <ul>
              {treatments.map((one) => (
                <li key={one.name}>
                  <Link
                    href={`/treatments/${encodeURIComponent(one.name)}`}
                    aria-current={one.name === chosen.name ? 'page' : undefined}
                    className={`flex flex-col gap-0.5 border-b border-hairline px-4 py-2 ${one.name === chosen.name ? 'bg-hover shadow-[inset_3px_0_var(--color-accent)]' : 'hover:bg-panel'}`}
                  >
                    <span className="flex items-baseline justify-between gap-2">
                      <span className="truncate">{one.name}</span>
                      <span className="shrink-0 font-mono text-small text-soft">
                        {one.offered ? versionWords(one.version) : 'taken back'}
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

const versionWords = (version: number) => (version === 0 ? 'as shipped' : `version ${version}`);

function Editing({ treatment }: { treatment: TreatmentInfo }) {
  const [version, setVersion] = useState<number>();
  const { data: form } = useQuery(formQuery);
  const { data: saved, error } = useQuery(settingsQuery(treatment.name, version ?? treatment.version));
  const [edited, setEdited] = useState<TreatmentSettings>();
  if (error) return <Failed message={error.message} retry={() => setVersion(undefined)} />;
  if (!form || !saved) return <Loading label="Loading the settings" className="m-5 h-[60%] flex-1" />;
  const settings = edited ?? saved;
  return (
    <>
      <Settings
        treatment={treatment}
        settings={settings}
        changed={edited !== undefined && JSON.stringify(edited) !== JSON.stringify(saved)}
        shown={version ?? treatment.version}
        onVersion={(next) => {
          setVersion(next);
          setEdited(undefined);
        }}
        onChange={setEdited}
        form={
          <>
            <SettingsForm groups={groupsOf(form)} settings={settings} onChange={setEdited} />
            <Calibrating settings={settings} onChange={setEdited} />
          </>
        }
      />
      <main className="on-surround flex min-w-0 flex-1 flex-col bg-surround text-ink">
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
      className="flex w-[336px] shrink-0 flex-col border-r border-hairline"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="flex flex-col gap-2 border-b border-hairline px-4 py-3">
          <Field
            label="Name (another one makes a new treatment)"
            value={settings.name}
            maxLength={80}
            required
            onChange={({ target }) => onChange({ ...settings, name: target.value })}
          />
          <Field
            label="What for, in one line"
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
      <div className="flex flex-col gap-1.5 border-t border-hairline p-3">
        {(save.error ?? turn.error) && <p role="alert">{(save.error ?? turn.error)?.message}</p>}
        <div className="grid grid-cols-[1fr_auto] gap-1">
          <Button type="submit" kind="main" disabled={save.isPending || !(changed || old)}>
            {asNew ? 'Save as a new treatment' : 'Save as the next version'}
          </Button>
          <Button disabled={!changed} onClick={() => onChange(undefined)}>
            Undo all
          </Button>
        </div>
        {newest && (
          <Button
            disabled={turn.isPending}
            onClick={() => {
              onVersion(undefined);
              onChange(undefined);
              turn.mutate({ way: 'take-back', name: treatment.name, version: newest.version });
            }}
          >
            Take version {newest.version} back
          </Button>
        )}
        {backs.map(({ version }) => (
          <Button
            key={version}
            kind="quiet"
            disabled={turn.isPending}
            onClick={() => turn.mutate({ way: 'bring-back', name: treatment.name, version })}
          >
            Bring version {version} back
          </Button>
        ))}
        <p className="text-small text-soft">Stacks keep the version that they were given.</p>
      </div>
    </form>
  );
}
