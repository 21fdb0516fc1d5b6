import { type FormEvent, type RefObject, useState } from 'react';
import type { PageRow } from '@/api/types';
import { keyWords } from '@/engine/keys/registry';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { counted } from '@/words/figures';
import type { ArrangeCommand, AsideReason } from './commands';

export type ArrangePanelProps = {
  chosen: readonly PageRow[];
  total: number;
  commands: readonly ArrangeCommand[];
  reason: AsideReason;
  onReason: (reason: AsideReason) => void;
  positionField: RefObject<HTMLInputElement | null>;
  onPosition: (position: number) => void;
};

const GROUPS: ArrangeCommand['group'][] = ['Turn', 'Place', 'Hold', 'Mark', 'Sequence'];
const COLUMNS: Record<ArrangeCommand['group'], string> = {
  Turn: 'grid-cols-3',
  Place: 'grid-cols-2',
  Hold: 'grid-cols-2',
  Mark: 'grid-cols-1',
  Sequence: 'grid-cols-2',
};
const REASONS: { value: AsideReason; label: string }[] = [
  { value: 'by hand', label: 'no reason given' },
  { value: 'duplicate', label: 'duplicate' },
  { value: 'rejected', label: 'rejected' },
  { value: 'blank', label: 'blank' },
];

/** What can be done to the chosen pages, with the key that does it. */
export function ArrangePanel(props: ArrangePanelProps) {
  const { chosen, total, commands, reason, onReason, positionField, onPosition } = props;
  return (
    <div className="flex flex-col gap-3 p-4">
      <h2 className="text-body font-semibold" aria-live="polite">
        {chosen.length === 1 ? `Page ${chosen[0]?.number} chosen` : `${counted(chosen.length, 'page')} chosen`}
      </h2>
      {GROUPS.map((group) => (
        <section key={group} aria-label={group} className="flex flex-col gap-1">
          <h3 className="text-small text-soft">{group}</h3>
          <div className={`grid gap-1 ${COLUMNS[group]}`}>
            {commands
              .filter((command) => command.group === group && command.name !== 'position')
              .map((command) => (
                <Button
                  key={command.name}
                  disabled={command.enabled === false}
                  onClick={command.perform}
                  className="h-7! justify-between! px-2!"
                  title={command.brief && command.label}
                >
                  <span className="truncate">{command.brief ?? command.label}</span>
                  <kbd className="font-mono text-small text-soft">{keyWords(command)}</kbd>
                </Button>
              ))}
          </div>
          {group === 'Place' && (
            <Position field={positionField} total={total} disabled={chosen.length === 0} onPosition={onPosition} />
          )}
          {group === 'Hold' && <Select label="Reason" value={reason} options={REASONS} onChange={onReason} inline />}
        </section>
      ))}
    </div>
  );
}

type PositionProps = {
  field: RefObject<HTMLInputElement | null>;
  total: number;
  disabled: boolean;
  onPosition: (position: number) => void;
};

function Position({ field, total, disabled, onPosition }: PositionProps) {
  const [value, setValue] = useState('');
  const position = Number(value);
  const fits = value !== '' && Number.isInteger(position) && position >= 1 && position <= total;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!fits) return;
    onPosition(position);
    setValue('');
    field.current?.blur();
  };
  return (
    <form onSubmit={submit} className="flex items-center gap-1">
      <label htmlFor="to-position" className="flex-1">
        To position <kbd className="font-mono text-small text-soft">P</kbd>
      </label>
      <input
        id="to-position"
        ref={field}
        inputMode="numeric"
        value={value}
        disabled={disabled}
        aria-invalid={value !== '' && !fits}
        placeholder={`1 to ${total}`}
        onChange={(event) => setValue(event.target.value.trim())}
        onKeyDown={(event) => event.key === 'Escape' && event.currentTarget.blur()}
        className="h-7 w-20 rounded-md border border-hairline bg-panel px-2 font-mono text-ink placeholder:text-soft aria-invalid:border-2 aria-invalid:border-ink"
      />
      <Button type="submit" disabled={!fits} className="h-7!">
        Move
      </Button>
    </form>
  );
}
