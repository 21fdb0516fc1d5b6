import { type FormEvent, type RefObject, useState } from 'react';
import type { PageRow } from '@/api/types';
import type { ArrangeCommand, AsideReason, Group } from '@/engine/keys/arrange';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { Key } from '@/ui/Key';
import { Select } from '@/ui/Select';
import { counted } from '@/words/figures';

export type ArrangePanelProps = {
  chosen: readonly PageRow[];
  total: number;
  commands: readonly ArrangeCommand[];
  reason: AsideReason;
  onReason: (reason: AsideReason) => void;
  positionField: RefObject<HTMLInputElement | null>;
  onPosition: (position: number) => void;
};

const GROUPS: Group[] = ['Turn', 'Move', 'Hold', 'Mark', 'Order'];
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
    <div className="flex flex-col gap-4 p-4">
      <h2 className="font-semibold">{chosenWords(chosen)}</h2>
      {commands.length === 0 && <p className="text-soft">Nothing here is yours to do.</p>}
      {GROUPS.filter((group) => commands.some(({ subject }) => subject === group)).map((group) => (
        <section key={group} aria-label={group} className="flex flex-col gap-1">
          <h3 className="text-small text-soft">{group}</h3>
          <ul className="flex flex-col">
            {commands
              .filter((command) => command.subject === group && command.name !== 'position')
              .map((command) => (
                <li key={command.name}>
                  <Button
                    kind="quiet"
                    size="small"
                    spread="between"
                    className="w-full"
                    shortcut={command.key}
                    disabled={command.enabled === false}
                    aria-label={command.label}
                    onClick={command.perform}
                  >
                    {command.brief ?? command.label}
                  </Button>
                </li>
              ))}
          </ul>
          {group === 'Move' && (
            <Position field={positionField} total={total} disabled={chosen.length === 0} onPosition={onPosition} />
          )}
          {group === 'Hold' && <Select label="Reason" value={reason} options={REASONS} onChange={onReason} inline />}
        </section>
      ))}
    </div>
  );
}

export const chosenWords = (chosen: readonly PageRow[]) =>
  chosen.length === 0
    ? 'No page is chosen'
    : chosen.length === 1
      ? `Page ${chosen[0]?.number} chosen`
      : `${counted(chosen.length, 'page')} chosen`;

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
    <form onSubmit={submit} className="flex items-center gap-2 px-2 text-small">
      <label htmlFor="to-position" className="flex-1">
        To position
      </label>
      <Key of="p" />
      <input
        id="to-position"
        ref={field}
        inputMode="numeric"
        value={value}
        disabled={disabled}
        aria-keyshortcuts="p"
        aria-invalid={value !== '' && !fits}
        placeholder={`1 to ${total}`}
        onChange={(event) => setValue(event.target.value.trim())}
        onKeyDown={(event) => event.key === 'Escape' && event.currentTarget.blur()}
        className={`${INPUT} min-h-8 w-20 px-2 font-mono`}
      />
      <Button type="submit" size="small" disabled={!fits}>
        Move
      </Button>
    </form>
  );
}
