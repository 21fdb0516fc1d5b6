import type { Adjustments, Correction, Preview } from '@/api/bench';
import type { Page, PageRow } from '@/api/types';
import type { Tool } from '@/engine/bench/toolNames';
import { SIDES } from '@/engine/geometry/corners';
import { keyWords } from '@/engine/keys/registry';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { Tick } from '@/ui/Tick';
import { figure } from '@/words/figures';
import { Histogram } from './Histogram';

export type CorrectPanelProps = {
  page: PageRow;
  data: Page;
  plan: Page['plan'] & object;
  own: Correction;
  preview: Preview | undefined;
  set: (part: Correction, now?: boolean) => void;
  onTool: (tool: Tool) => void;
  onTilt: (by: number) => void;
  onPutBack: (side: number) => void;
  onUseOn: () => void;
  onAsPlanned: () => void;
};

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

/** What is done to the page, and how to have it otherwise; what is by hand says so. */
export function CorrectPanel({ page, data, plan, own, preview, set, ...on }: CorrectPanelProps) {
  const adjust = own.adjust ?? plan.adjust ?? AT_REST;
  const byHand = Object.values(own).some((value) => value != null);
  const even = own.even_tone ?? plan.tone !== null;
  // Only what has an effect on the page as it is now can be set.
  const twoTones = plan.colour === 'bitonal';
  const evened = plan.tone !== null;
  const figures = [...(evened || twoTones ? [STRENGTHEN] : []), ...TONES, ...(plan.colour === 'colour' ? COLOURS : [])];
  const measured = data.measurements;
  const tiltShown = own.quad ? '–' : figure(own.skew ?? plan.skew_deg, 2, '°');
  const cleared = plan.clear_outside !== null;
  return (
    <div className="flex flex-col">
      <Section title="Place" mark={own.skew != null || own.quad != null || own.crop != null || own.turn != null}>
        <div className="flex items-center gap-1">
          <span className="flex-1">Tilt</span>
          <Button aria-label="Less tilt" className="w-8 px-0!" onClick={() => on.onTilt(-0.05)}>
            −
          </Button>
          <span className="w-16 text-center font-mono" data-testid="tilt">
            {tiltShown}
          </span>
          <Button aria-label="More tilt" className="w-8 px-0!" onClick={() => on.onTilt(0.05)}>
            +
          </Button>
        </div>
        <p className="text-small text-soft">
          {own.quad
            ? 'Corners are set by hand: they level the page too.'
            : `Measured ${figure(measured?.skew_deg ?? 0, 2, '°')}${own.skew != null ? '; set by hand' : ''}.`}
        </p>
        <div className="grid grid-cols-2 gap-1">
          <ToolButton tool="level" onTool={on.onTool} label="Level …" shortcut="t" />
          <ToolButton tool="corners" onTool={on.onTool} label="Corners …" shortcut="q" />
        </div>
        <Select
          inline
          label="Cut to"
          value={own.quad ? 'corners' : own.crop == null ? 'planned' : own.crop ? 'page' : 'image'}
          options={[
            { value: 'planned', label: 'as planned' },
            { value: 'page', label: 'the page found' },
            { value: 'image', label: 'the whole image' },
            { value: 'corners', label: 'corners by hand', disabled: !own.quad },
          ]}
          onChange={(value) => set({ quad: null, crop: value === 'planned' ? null : value === 'page' }, true)}
        />
      </Section>
      <Section title="Borders" mark={own.clear != null || own.plain != null}>
        <Select
          inline
          label="Dark borders"
          value={own.clear == null ? 'planned' : own.clear ? 'clear' : 'keep'}
          options={[
            { value: 'planned', label: `as planned (${cleared && own.clear == null ? 'cleared' : 'kept'})` },
            { value: 'clear', label: 'clear' },
            { value: 'keep', label: 'keep' },
          ]}
          onChange={(value) => set({ clear: value === 'planned' ? null : value === 'clear' }, true)}
        />
        <div className="grid grid-cols-2 gap-1">
          <ToolButton tool="borders" onTool={on.onTool} label="Borders …" shortcut="d" />
          <Button disabled={own.plain == null} onClick={() => set({ plain: null }, true)}>
            As found
          </Button>
        </div>
        {cleared && (
          <div className="flex items-center gap-1">
            <span className="mr-1 text-soft">Put back</span>
            {SIDES.map((side, index) => (
              <Button
                key={side}
                aria-label={`Put the ${side} border back`}
                className="flex-1 px-0! text-small!"
                onClick={() => on.onPutBack(index)}
              >
                {side}
              </Button>
            ))}
          </div>
        )}
      </Section>
      <Section title="Tone" mark={own.adjust != null || own.even_tone != null || own.reduce_show_through != null}>
        <Histogram shares={preview?.histogram} adjust={adjust} onChange={(next) => set({ adjust: next })} />
        <Select
          inline
          label="Colour"
          value={own.colour ?? 'planned'}
          options={[
            { value: 'planned', label: `as planned (${MODE_WORDS[data.plan?.colour ?? 'grey']})` },
            { value: 'bitonal', label: MODE_WORDS.bitonal },
            { value: 'grey', label: MODE_WORDS.grey },
            { value: 'colour', label: MODE_WORDS.colour },
          ]}
          onChange={(value) => set({ colour: value === 'planned' ? null : value }, true)}
        />
        {!twoTones && (
          <Tick label="Even the paper" value={even} onChange={(value) => set({ even_tone: value }, true)} />
        )}
        {evened && !twoTones && (
          <Tick
            label="Reduce show-through"
            value={own.reduce_show_through ?? plan.reduce_show_through ?? false}
            onChange={(value) => set({ reduce_show_through: value }, true)}
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
        <Button disabled={own.adjust == null} onClick={() => set({ adjust: null }, true)}>
          Tone as planned
        </Button>
      </Section>
      <div className="sticky bottom-0 grid grid-cols-2 gap-1 border-t border-hairline bg-ground p-4">
        <Button disabled={!byHand} onClick={on.onUseOn} className="justify-between!">
          Use on … <kbd className="font-mono text-small text-soft">W</kbd>
        </Button>
        <Button disabled={!byHand} onClick={on.onAsPlanned} className="justify-between!">
          As planned <kbd className="font-mono text-small text-soft">J</kbd>
        </Button>
        <p className="col-span-2 text-small text-soft">
          {page.own.length || byHand ? 'Corrected by hand.' : 'As the treatment has it.'}
        </p>
      </div>
    </div>
  );
}

export const MODE_WORDS = { bitonal: 'two tones', grey: 'grey', colour: 'colour' } as const;

function Section({ title, mark, children }: { title: string; mark: boolean; children: React.ReactNode }) {
  return (
    <section className="flex flex-col gap-2 border-b border-hairline px-4 py-3">
      <h3 className="flex items-baseline justify-between font-semibold">
        {title}
        {mark && <span className="text-small font-normal text-soft">by hand</span>}
      </h3>
      {children}
    </section>
  );
}

function ToolButton(props: { tool: Tool; onTool: (tool: Tool) => void; label: string; shortcut: string }) {
  return (
    <Button className="justify-between!" onClick={() => props.onTool(props.tool)}>
      {props.label}
      <kbd className="font-mono text-small text-soft">{keyWords({ key: props.shortcut })}</kbd>
    </Button>
  );
}
