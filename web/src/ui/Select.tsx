import { Select as Radix } from 'radix-ui';
import { useId } from 'react';
import { floor } from './floor';
import { Chevron, Tick } from './signs';

export type SelectProps<T extends string> = {
  label: string;
  value: T;
  options: readonly { value: T; label: string; disabled?: boolean }[];
  onChange: (value: T) => void;
  /** Label and field in one line. */
  inline?: boolean;
  disabled?: boolean;
  /** The label is heard, not seen: what stands around the field says it. */
  hidden?: boolean;
};

/** One of several, from a list that opens. */
export function Select<T extends string>({
  label,
  value,
  options,
  onChange,
  inline,
  disabled,
  hidden,
}: SelectProps<T>) {
  const id = useId();
  return (
    <div className={inline ? 'flex items-center gap-3' : 'flex flex-col gap-1'}>
      <span id={id} className={hidden ? 'sr-only' : inline ? 'flex-1' : 'text-small text-soft'}>
        {label}
      </span>
      <Radix.Root
        value={value}
        onValueChange={(chosen) => chosen && onChange(chosen as T)}
        disabled={disabled ?? false}
      >
        <Radix.Trigger
          aria-labelledby={id}
          className="inline-flex min-h-9 min-w-0 items-center justify-between gap-2 rounded-md border border-control bg-panel px-2.5 text-left hover:bg-hover disabled:border-hairline disabled:text-soft"
        >
          <span className="min-w-0 truncate">
            <Radix.Value />
          </span>
          <Radix.Icon asChild>
            <Chevron />
          </Radix.Icon>
        </Radix.Trigger>
        <SelectList options={options} />
      </Radix.Root>
    </div>
  );
}

/** The list that a field, or a word in a sentence, opens. */
export function SelectList<T extends string>({ options }: Pick<SelectProps<T>, 'options'>) {
  return (
    <Radix.Portal container={floor()}>
      <Radix.Content
        position="popper"
        sideOffset={4}
        className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden rounded-md border border-control bg-panel text-ink shadow-lifted"
      >
        <Radix.Viewport className="p-1">
          {options.map((option) => (
            <Radix.Item
              key={option.value}
              value={option.value}
              disabled={option.disabled ?? false}
              className="flex min-h-8 cursor-default items-center gap-2 rounded-sm py-1 pr-4 pl-1.5 outline-none select-none data-[disabled]:text-soft data-[highlighted]:bg-accent data-[highlighted]:text-on-accent"
            >
              <span className="w-4 shrink-0">
                <Radix.ItemIndicator>
                  <Tick />
                </Radix.ItemIndicator>
              </span>
              <Radix.ItemText>{option.label}</Radix.ItemText>
            </Radix.Item>
          ))}
        </Radix.Viewport>
      </Radix.Content>
    </Radix.Portal>
  );
}
