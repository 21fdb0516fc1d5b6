import { useId } from 'react';

export type SliderProps = {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  /** The value at which nothing is done. */
  rest: number;
  shown: string;
  onChange: (value: number) => void;
};

/** One figure to set, with its label and value above it; a double click takes it back to rest. */
export function Slider({ label, value, min, max, step = 1, rest, shown, onChange }: SliderProps) {
  const id = useId();
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-2">
      <label htmlFor={id}>{label}</label>
      <span className={`font-mono ${value === rest ? 'text-soft-ink' : ''}`}>{shown}</span>
      <input
        id={id}
        type="range"
        min={min}
        max={max}
        step={step}
        value={value}
        aria-valuetext={shown}
        onChange={(event) => onChange(Number(event.target.value))}
        onDoubleClick={() => onChange(rest)}
        className="col-span-2 h-4 w-full accent-accent"
      />
    </div>
  );
}
