import type { Tool } from '@/engine/bench/toolNames';
import type { BenchModel } from '@/hooks/useBench';
import { Button } from '@/ui/Button';
import { Clipped } from '@/ui/Tip';
import { figure, size as sizeWords } from '@/words/figures';

const HINTS: Record<Tool, string> = {
  move: '',
  level: 'Draw along a text line, or down a rule. ← → tilt by 0.05°, with Shift by 0.5°.',
  corners: 'Drag corners and sides. Tab goes from one to the next, arrow keys move by a pixel, with Shift by ten.',
  split: 'Drag the line, or one of its ends. ← → move it by a pixel, with Shift by ten.',
  borders: 'What is shaded is cleared. Drag its inner sides; Delete keeps the border of a side.',
};

export type FootProps = {
  bench: BenchModel;
  tool: Tool;
  onSplit: () => void;
  /** How large the page is shown. */
  percent: number;
  onWhole: () => void;
  onTrueSize: () => void;
};

/** Below the page: what the tool does, whether all is saved, how large the page is and is shown. */
export function Foot({ bench, tool, onSplit, percent, onWhole, onTrueSize }: FootProps) {
  const { page, half, pending, trouble, lie } = bench;
  return (
    <div className="flex min-h-12 shrink-0 flex-wrap items-center gap-3 border-t border-hairline bg-panel px-4 py-1.5 text-ink">
      <span className="font-mono">{page.number}</span>
      <span className="min-w-0 flex-1 basis-48">
        <Clipped text={HINTS[tool] || page.source} />
      </span>
      <span role="status" className="shrink-0 text-soft">
        {trouble ?? (pending ? 'Saving …' : '')}
      </span>
      {tool === 'split' && (
        <Button size="small" kind={half ? 'plain' : 'main'} onClick={half ? bench.unsplit : onSplit}>
          {half ? 'Undo the split' : 'Split here'}
        </Button>
      )}
      <span className="shrink-0 font-mono text-small text-soft">{sizeWords(lie.size)}</span>
      <span className="w-14 shrink-0 text-right font-mono" data-testid="zoom">
        {figure(percent, 0, '%')}
      </span>
      <Button size="small" shortcut="0" onClick={onWhole}>
        Whole page
      </Button>
      <Button size="small" shortcut="1" onClick={onTrueSize}>
        1:1
      </Button>
    </div>
  );
}
