import { useEffect, useId, useState } from 'react';
import type { TreatmentSettings } from '@/api/treatments';
import { type Field, type Group, valueAt, withValue } from '@/engine/treatments/settings';
import { Check } from '@/ui/Check';
import { INPUT } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { figure } from '@/words/figures';

export type SettingsFormProps = {
  groups: readonly Group[];
  settings: TreatmentSettings;
  onChange: (settings: TreatmentSettings) => void;
};

/** All settings of a treatment under their headings, each with its unit, its bounds and one line of help. */
export function SettingsForm({ groups, settings, onChange }: SettingsFormProps) {
  return groups.map(({ title, fields }) => (
    <fieldset key={title} className="flex flex-col gap-2.5 border-b border-hairline px-5 py-4">
      <legend className="float-left mb-1 w-full font-semibold">{title}</legend>
      {fields.map((field) => (
        <Setting
          key={field.path.join('.')}
          field={field}
          value={valueAt(settings, field.path)}
          onChange={(value) => onChange(withValue(settings, field.path, value))}
        />
      ))}
    </fieldset>
  ));
}

function Setting({ field, value, onChange }: { field: Field; value: unknown; onChange: (value: unknown) => void }) {
  return (
    <div>
      <Control field={field} value={value} onChange={onChange} />
      {field.help && <p className="text-small text-soft">{field.help}</p>}
    </div>
  );
}

function Control({ field, value, onChange }: { field: Field; value: unknown; onChange: (value: unknown) => void }) {
  switch (field.kind) {
    case 'yes or no':
      return <Check label={field.title} value={value === true} onChange={onChange} />;
    case 'choice':
      return (
        <Select
          inline
          label={field.title}
          value={String(value)}
          options={field.options.map((option) => ({ value: option, label: option }))}
          onChange={onChange}
        />
      );
    case 'number':
      if (!field.slides) return <Amount field={field} value={value as number | null} onChange={onChange} />;
      return (
        <Slider
          label={field.title}
          value={Number(value ?? field.rest)}
          min={field.min}
          max={field.max}
          step={field.max - field.min > 20 ? 1 : 0.05}
          rest={field.rest}
          shown={figure(Number(value ?? field.rest), field.max - field.min > 20 ? 0 : 2, field.unit)}
          onChange={onChange}
        />
      );
  }
}

/** A figure with its unit; where it may be left out, empty is nothing. */
function Amount(props: {
  field: Field & { kind: 'number' };
  value: number | null;
  onChange: (value: unknown) => void;
}) {
  const { field, value, onChange } = props;
  const id = useId();
  const [written, setWritten] = useState(value === null ? '' : String(value));
  // What is being written may be no figure yet; what comes from elsewhere is written anew.
  useEffect(() => {
    setWritten((now) => ((now === '' ? null : Number(now)) === value ? now : value === null ? '' : String(value)));
  }, [value]);
  const figure = written === '' ? null : Number(written);
  const fits = figure === null ? field.optional : figure >= field.min && figure <= field.max;
  return (
    <div className="flex items-center gap-2">
      <label htmlFor={id} className="flex-1">
        {field.title}
      </label>
      <input
        id={id}
        type="number"
        step="any"
        min={field.min}
        max={field.max}
        required={!field.optional}
        placeholder={field.optional ? 'as it is' : ''}
        aria-invalid={!fits}
        value={written}
        onChange={({ target }) => {
          setWritten(target.value);
          if (target.value === '' ? field.optional : target.validity.valid)
            onChange(target.value === '' ? null : Number(target.value));
        }}
        // What cannot stand is not kept: the field shows what goes.
        onBlur={() => fits || setWritten(value === null ? '' : String(value))}
        className={`${INPUT} w-30 text-right font-mono`}
      />
      <span className="w-12 font-mono text-small text-soft">{field.unit}</span>
    </div>
  );
}
