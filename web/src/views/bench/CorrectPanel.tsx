import type { ReactNode } from 'react';
import type { Adjustments } from '@/api/bench';
import type { Tool } from '@/engine/bench/toolNames';
import { SIDES } from '@/engine/geometry/corners';
import type { BenchModel } from '@/hooks/useBench';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { COLOUR_LABELS, COLOUR_WORDS } from '@/words/colours';
import { figure } from '@/words/figures';
import { Histogram } from './Histogram';

export type CorrectPanelProps = { bench: BenchModel; onTool: (tool: Tool) => void; onApply: () => void };

export const AT_REST: Adjustments = {
  black: 0,
  white: 100,
  gamma: 1,
  brightness: 0,
  contrast: 0,
  strengthen: 0,
  sharpen: 0,
  saturation: 0,
  warmth: 0,
  tint: 0,
};

type Figure = { name: keyof Adjustments; label: string; min: number };
const STRENGTHEN: Figure = { name: 'strengthen', label: 'Strengthen faint text', min: 0 };
const TONES: Figure[] = [
  { name: 'sharpen', label: 'Sharpen', min: 0 },
  { name: 'brightness', label: 'Brightness', min: -100 },
  { name: 'contrast', label: 'Contrast', min: -100 },
];
const COLOURS: Figure[] = [
  { name: 'saturation', label: 'Saturation', min: -100 },
  { name: 'warmth', label: 'Warmth', min: -100 },
  { name: 'tint', label: 'Tint', min: -100 },
];
const TREATED = 'treated';

/** What is done to the page, and how to have it otherwise; what is by hand says so. */
export function CorrectPanel({ bench, onTool, onApply }: CorrectPanelProps) {
  return (
    <div className="flex min-h-full flex-col">
      <Position bench={bench} onTool={onTool} />
      <Borders bench={bench} onTool={onTool} />
      <Tone bench={bench} />
      <div className="sticky bottom-0 mt-auto flex flex-col gap-2 border-t border-hairline bg-panel p-4">
        {!bench.byHand && <p className="text-small text-soft">Nothing set by hand: all is as the treatment says.</p>}
        <div className="grid grid-cols-2 gap-2">
          <Button size="small" spread="between" shortcut="w" disabled={!bench.byHand} onClick={onApply}>
            Apply to …
          </Button>
          <Button size="small" spread="between" shortcut="j" disabled={!bench.byHand} onClick={bench.asTreated}>
            Back to treatment
          </Button>
        </div>
      </div>
    </div>
  );
}

function Position({ bench, onTool }: { bench: BenchModel; onTool: (tool: Tool) => void }) {
  const { own, plan, measured, set, levelBy } = bench;
  const tilt = own.quad ? '–' : figure(own.skew ?? plan.skew_deg, 2, '°');
  return (
    <Section title="Position" byHand={own.skew != null || own.quad != null || own.crop != null || own.turn != null}>
      <div className="flex items-center gap-1">
        <span className="flex-1">Tilt</span>
        <Button size="square" aria-label="Less tilt" onClick={() => levelBy(-0.05)}>
          −
        </Button>
        <span className="w-18 text-center font-mono" data-testid="tilt">
          {tilt}
        </span>
        <Button size="square" aria-label="More tilt" onClick={() => levelBy(0.05)}>
          +
        </Button>
      </div>
      <p className="text-small text-soft">
        {own.quad
          ? 'Corners are set by hand: they level the page too.'
          : `Measured ${figure(measured.skew_deg, 2, '°')}${own.skew != null ? '; set by hand' : ''}.`}
      </p>
      <div className="grid grid-cols-2 gap-2">
        <Button size="small" spread="between" shortcut="t" onClick={() => onTool('level')}>
          Straighten
        </Button>
        <Button size="small" spread="between" shortcut="q" onClick={() => onTool('corners')}>
          Corners
        </Button>
      </div>
      <Select
        inline
        label="Crop to"
        value={own.quad ? 'corners' : own.crop == null ? TREATED : own.crop ? 'page' : 'image'}
        options={[
          { value: TREATED, label: 'as the treatment says' },
          { value: 'page', label: 'the page found' },
          { value: 'image', label: 'the whole image' },
          { value: 'corners', label: 'corners by hand', disabled: !own.quad },
        ]}
        onChange={(value) => set({ quad: null, crop: value === TREATED ? null : value === 'page' }, true)}
      />
    </Section>
  );
}

function Borders({ bench, onTool }: { bench: BenchModel; onTool: (tool: Tool) => void }) {
  const { own, plan, set } = bench;
  const cleared = plan.clear_outside !== null;
  return (
    <Section title="Borders" byHand={own.clear != null || own.plain != null}>
      <Select
        inline
        label="Dark borders"
        value={own.clear == null ? TREATED : own.clear ? 'clear' : 'keep'}
        options={[
          { value: TREATED, label: `as treated (${cleared && own.clear == null ? 'cleared' : 'kept'})` },
          { value: 'clear', label: 'clear' },
          { value: 'keep', label: 'keep' },
        ]}
        onChange={(value) => set({ clear: value === TREATED ? null : value === 'clear' }, true)}
      />
      <div className="grid grid-cols-2 gap-2">
        <Button size="small" spread="between" shortcut="d" onClick={() => onTool('borders')}>
          Borders
        </Button>
        <Button size="small" disabled={own.plain == null} onClick={() => set({ plain: null }, true)}>
          Borders as found
        </Button>
      </div>
      {cleared && (
        <div className="flex flex-wrap items-center gap-1">
          <span className="mr-1 w-full text-small text-soft">Keep the border on the</span>
          {SIDES.map((side, index) => (
            <Button
              key={side}
              size="small"
              spread="wide"
              aria-label={`Keep the ${side} border`}
              onClick={() => bench.keepBorder(index)}
            >
              {side}
            </Button>
          ))}
        </div>
      )}
    </Section>
  );
}

function Tone({ bench }: { bench: BenchModel }) {
  const { own, plan, data, set } = bench;
  const adjust = own.adjust ?? plan.adjust ?? AT_REST;
  // Only what has an effect on the page as it is now can be set.
  const bitonal = plan.colour === 'bitonal';
  const evened = plan.tone !== null;
  const even = own.even_tone ?? evened;
  const figures = [...(evened || bitonal ? [STRENGTHEN] : []), ...TONES, ...(plan.colour === 'colour' ? COLOURS : [])];
  return (
    <Section title="Tone" byHand={own.adjust != null || own.even_tone != null || own.reduce_show_through != null}>
      <Histogram shares={bench.histogram} adjust={adjust} onChange={(next) => set({ adjust: next })} />
      <Select
        inline
        label="Colour"
        value={own.colour ?? TREATED}
        options={[
          { value: TREATED, label: `as treated (${COLOUR_WORDS[data.plan?.colour ?? 'grey']})` },
          { value: 'bitonal', label: COLOUR_LABELS.bitonal },
          { value: 'grey', label: COLOUR_LABELS.grey },
          { value: 'colour', label: COLOUR_LABELS.colour },
        ]}
        onChange={(value) => set({ colour: value === TREATED ? null : value }, true)}
      />
      {!bitonal && <Check label="Even out the paper" value={even} onChange={(on) => set({ even_tone: on }, true)} />}
      {evened && !bitonal && (
        <Check
          label="Reduce show-through"
          value={own.reduce_show_through ?? plan.reduce_show_through ?? false}
          onChange={(on) => set({ reduce_show_through: on }, true)}
        />
      )}
      {figures.map(({ name, label, min }) => (
        <Slider
          key={name}
          label={label}
          value={adjust[name]}
          min={min}
          max={100}
          rest={AT_REST[name]}
          shown={figure(adjust[name], 0, '%')}
          onChange={(value) => set({ adjust: { ...adjust, [name]: value } })}
        />
      ))}
      <Button size="small" disabled={own.adjust == null} onClick={() => set({ adjust: null }, true)}>
        Tone back to the treatment
      </Button>
    </Section>
  );
}

function Section({ title, byHand, children }: { title: string; byHand: boolean; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex flex-col gap-2.5 border-b border-hairline px-4 py-4">
      <h2 className="flex items-baseline justify-between font-semibold">
        {title}
        {byHand && <span className="text-small font-normal text-soft">by hand</span>}
      </h2>
      {children}
    </section>
  );
}
