import { Slider } from 'radix-ui';
import type { Adjustments } from '@/api/bench';
import { figure } from '@/words/figures';

export type HistogramProps = {
  shares: readonly number[] | undefined;
  adjust: Adjustments;
  onChange: (adjust: Adjustments) => void;
};

const HIGH = 64;
const LEAST_SPAN = 5;

/** Tones of the page before they are set, and the three points to drag: black, the middle, white. */
export function Histogram({ shares, adjust, onChange }: HistogramProps) {
  const { black, white, gamma } = adjust;
  // The middle point lies where the tone is that becomes middle grey.
  const middle = black + (white - black) * 0.5 ** gamma;
  const put = ([nextBlack = black, nextMiddle = middle, nextWhite = white]: number[]) => {
    if (nextBlack !== black) return onChange({ ...adjust, black: tidy(Math.min(nextBlack, 90, white - LEAST_SPAN)) });
    if (nextWhite !== white) return onChange({ ...adjust, white: tidy(Math.max(nextWhite, 10, black + LEAST_SPAN)) });
    const share = Math.max(0.03, Math.min(0.87, (nextMiddle - black) / (white - black)));
    onChange({ ...adjust, gamma: Math.round(100 * Math.max(0.2, Math.min(5, Math.log(share) / Math.log(0.5)))) / 100 });
  };
  const thumbs = [
    { name: 'Black point', shown: figure(black, 0, '%'), look: 'bg-surround-ink' },
    { name: 'Middle tones', shown: figure(gamma, 2), look: 'bg-surround' },
    { name: 'White point', shown: figure(white, 0, '%'), look: 'bg-paper' },
  ];
  return (
    <div>
      <svg
        viewBox={`0 0 64 ${HIGH}`}
        preserveAspectRatio="none"
        className="h-16 w-full border-b border-control bg-ground"
        aria-hidden="true"
      >
        <path d={bars(shares ?? [])} className="fill-control" />
      </svg>
      <Slider.Root
        min={0}
        max={100}
        step={0.1}
        value={[black, middle, white]}
        onValueChange={put}
        onKeyDown={(event) => {
          // Whole steps by arrow keys: a tenth is for the pointer.
          const step = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
          const at = thumbs.findIndex(({ name }) => name === (event.target as HTMLElement).getAttribute('aria-label'));
          if (!step || at < 0) return;
          event.preventDefault();
          event.stopPropagation();
          const values = [black, middle, white];
          values[at] = Math.max(0, Math.min(100, (values[at] ?? 0) + step * (event.shiftKey ? 10 : 1)));
          put(values);
        }}
        className="relative flex h-6 touch-none items-center select-none"
      >
        <Slider.Track className="relative h-px grow" />
        {thumbs.map(({ name, shown, look }) => (
          <Slider.Thumb key={name} aria-label={name} aria-valuetext={shown} className="grid size-6 place-items-center">
            <span className={`size-4 rotate-45 border border-ink ${look}`} />
          </Slider.Thumb>
        ))}
      </Slider.Root>
      <div className="flex justify-between font-mono text-small text-soft">
        {thumbs.map(({ name, shown }) => (
          <span key={name}>{shown}</span>
        ))}
      </div>
    </div>
  );
}

const tidy = (value: number) => Math.round(value * 10) / 10;

/** The bars as one shape. Their heights are roots, so that a little ink is seen beside much paper. */
function bars(shares: readonly number[]): string {
  const most = Math.max(0.0001, ...shares.slice(1, -1));
  const high = (share: number) => Math.sqrt(Math.min(1, share / most)) * (HIGH - 4);
  return shares.map((share, index) => `M${index} ${HIGH}v${-high(share)}h1.02V${HIGH}Z`).join('');
}
