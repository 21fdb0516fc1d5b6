import type { ReactNode } from 'react';
import { Button } from '@/ui/Button';

/** What captures, and why it cannot now. */
export type CaptureButton = { label: string; why: string; disabled: boolean; onCapture: () => void };

/** What is done next, at the picture's own edge. */
export function CaptureEdge({ capture, children }: { capture: CaptureButton | undefined; children?: ReactNode }) {
  return (
    <div className="flex min-h-14 shrink-0 flex-wrap items-center gap-2.5 px-5 pb-3 text-surround-ink">
      {capture && (
        <Button
          kind="main"
          shortcut="c"
          why={capture.disabled ? undefined : capture.why}
          disabled={capture.disabled}
          onClick={capture.onCapture}
        >
          {capture.label}
        </Button>
      )}
      {children}
    </div>
  );
}
