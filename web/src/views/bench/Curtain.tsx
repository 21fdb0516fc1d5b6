import { useDrag } from '@/hooks/useDrag';

const STEP = 0.02;

/** The edge between original and corrected page: dragged, or moved by arrow keys. */
export function Curtain({ share, onShare }: { share: number; onShare: (share: number) => void }) {
  const put = (next: number) => onShare(Math.max(0, Math.min(1, next)));
  const drag = useDrag<DOMRect>({
    onGrasp: (event) => event.currentTarget.parentElement?.getBoundingClientRect(),
    onDrag: (box, event) => put((event.clientX - box.left) / box.width),
  });
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Curtain"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(share * 100)}
      aria-valuetext={`${Math.round(share * 100)} % original`}
      className="absolute top-0 h-full w-6 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: `${share * 100}%` }}
      {...drag}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
        if (!step || event.ctrlKey || event.metaKey) return;
        event.preventDefault();
        event.stopPropagation();
        put(share + step * (event.shiftKey ? 5 : 1));
      }}
    >
      <span aria-hidden="true" className="mx-auto block h-full w-0.5 bg-mark outline-1 outline-paper" />
    </div>
  );
}
