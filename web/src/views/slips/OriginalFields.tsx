import type { Original } from '@/api/types';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { AFTER_WORDS, ORIGINAL_WORDS } from '@/words/original';

export type OriginalField = 'year' | 'box' | 'shelf' | 'position' | 'after';
export const ORIGINAL_FIELDS: readonly OriginalField[] = ['year', 'box', 'shelf', 'position', 'after'];
const EXAMPLES = { year: '1927', box: '27', shelf: 'C 4', position: 'folder 3' };
const AFTERS = ['', 'back', 'kept', 'destroyed'] as const;
/** A list takes no empty value. */
const NOBODY = 'nobody' as const;

export type OriginalFieldsProps = {
  original: Original;
  onChange: (original: Original) => void;
  /** Those that are asked for; all of them where nothing is said. */
  only?: readonly OriginalField[];
};

/** Where the papers are, and what is to become of them. */
export function OriginalFields({ original, onChange, only = ORIGINAL_FIELDS }: OriginalFieldsProps) {
  const set = (change: Partial<Original>) => onChange({ ...original, ...change });
  return (
    <div className="grid grid-cols-2 gap-3">
      {(['year', 'box', 'shelf', 'position'] as const)
        .filter((field) => only.includes(field))
        .map((field) => (
          <Field
            key={field}
            label={ORIGINAL_WORDS[field]}
            maxLength={80}
            placeholder={EXAMPLES[field]}
            value={original[field]}
            onChange={({ target }) => set({ [field]: target.value })}
          />
        ))}
      {only.includes('after') && (
        <>
          <div className="col-span-2">
            <Select
              label={ORIGINAL_WORDS.after}
              value={original.after || NOBODY}
              options={AFTERS.map((after) => ({ value: after || NOBODY, label: AFTER_WORDS[after] }))}
              onChange={(after) =>
                set({ after: after === NOBODY ? '' : after, ...(after === 'kept' ? {} : { until: null }) })
              }
            />
          </div>
          {original.after === 'kept' && (
            <Field
              label="Until"
              type="date"
              value={original.until ?? ''}
              onChange={({ target }) => set({ until: target.value || null })}
            />
          )}
          {original.after && (
            <Field
              label="Who sees to it"
              maxLength={80}
              value={original.by}
              onChange={({ target }) => set({ by: target.value })}
            />
          )}
        </>
      )}
    </div>
  );
}
