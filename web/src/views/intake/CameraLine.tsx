import type { PageRow } from '@/api/types';
import type { Source } from '@/engine/camera/source';
import { Field } from '@/ui/Field';
import { Word, Written } from '@/ui/Word';

export type CameraSettings = { facing: boolean; name: string };
export type CameraLineProps = {
  source: Source | undefined;
  onSource: (id: string) => void;
  settings: CameraSettings;
  onSettings: (settings: CameraSettings) => void;
  /** The page whose place the next picture takes; undefined where pictures go to the end. */
  instead: PageRow | undefined;
  onInstead: (page: PageRow | undefined) => void;
  page: PageRow | undefined;
};

const HERE = 'here';

/** What the camera will take, as a sentence; each piece of it can be changed where it stands. */
export function CameraLine({ source, onSource, settings, onSettings, instead, onInstead, page }: CameraLineProps) {
  const one = instead !== undefined;
  return (
    <p className="min-h-16 text-title leading-8" data-testid="slip">
      <Word
        label="Camera"
        value={HERE}
        options={[
          { value: HERE, label: source?.name ?? 'The camera' },
          ...(source?.others ?? []).map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(id) => id !== HERE && onSource(id)}
      />{' '}
      photographs{' '}
      <Word
        label="What is photographed"
        value={settings.facing ? 'facing' : 'one'}
        options={[
          { value: 'one', label: 'one page' },
          { value: 'facing', label: 'two facing pages' },
        ]}
        onChange={(what) => onSettings({ ...settings, facing: what === 'facing' })}
      />{' '}
      at a time, names {one ? 'it' : 'them'}{' '}
      <Written label="File names begin with" text={settings.name.trim() || 'page'}>
        <Field
          label="File names begin with"
          maxLength={80}
          value={settings.name}
          onChange={({ target }) => onSettings({ ...settings, name: target.value })}
          help="A number is added: page 001, page 002 and so on."
        />
      </Written>{' '}
      and puts {one ? 'it' : 'them'}{' '}
      <Word
        label="Goes in"
        value={one ? 'instead' : 'end'}
        options={[
          { value: 'end', label: 'at the end' },
          {
            value: 'instead',
            label: `in place of page ${(instead ?? page)?.number ?? ''}`,
            disabled: !instead && !page,
          },
        ]}
        onChange={(where) => onInstead(where === 'instead' ? (instead ?? page) : undefined)}
      />
      .
    </p>
  );
}
