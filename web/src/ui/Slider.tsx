import { Slider as Radix } from 'radix-ui';
import { useId } from 'react';

export type SliderProps = {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  /** The value at which nothing is done; a double click, or Delete, goes back to it. */
  rest: number;
  shown: string;
  onChange: (value: number) => void;
};

/** One figure to set, with its label and value above it. */
export function Slider({ label, value, min, max, step = 1, rest, shown, onChange }: SliderProps) {
  const id = useId();
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-2">
      <span id={id}>{label}</span>
      <span className={`font-mono ${value === rest ? 'text-soft' : ''}`}>{shown}</span>
      <Radix.Root
        min={min}
        max={max}
        step={step}
        value={[value]}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        onDoubleClick={() => onChange(rest)}
        onKeyDown={(event) => {
          if (event.key !== 'Delete' && event.key !== 'Backspace') return;
          event.preventDefault();
          onChange(rest);
        }}
        className="relative col-span-2 flex h-6 touch-none items-center select-none"
      >
        <Radix.Track className="relative h-1 grow rounded-sm bg-control">
          <Radix.Range className="absolute h-full rounded-sm bg-accent" />
        </Radix.Track>
        <Radix.Thumb
          aria-labelledby={id}
          aria-valuetext={shown}
          className="grid size-6 place-items-center rounded-full outline-offset-0 before:size-4 before:rounded-full before:border-2 before:border-panel before:bg-accent"
        />
      </Radix.Root>
    </div>
  );
}
