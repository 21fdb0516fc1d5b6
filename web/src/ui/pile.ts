/** Draws a stack from its side. The pile itself is drawn once and kept: only what is chosen and looked at moves over it. */

import type { EdgeLine } from '@/api/types';

const THINNEST = 1;
const THICKEST = 9;

/** Thickness of a line and the height of the whole pile, in CSS pixels. */
export function pile(height: number, count: number): { pitch: number; total: number } {
  const pitch = count > 0 ? Math.min(THICKEST, Math.max(0.2, height / count)) : THICKEST;
  return { pitch, total: pitch * count };
}

/** The 0-based line at a distance from the top. */
export function lineAt(y: number, height: number, count: number): number {
  const { pitch } = pile(height, count);
  return Math.max(0, Math.min(count - 1, Math.floor(y / pitch)));
}

type Seen = {
  lines: readonly EdgeLine[];
  current: number | undefined;
  chosen: ReadonlySet<number> | undefined;
};
type Inks = { ink: string; paper: string };
type Drawn = Inks & { of: readonly EdgeLine[]; canvas: HTMLCanvasElement };

/** Keeps a canvas in step with what is to be seen and with its size in CSS pixels. */
export class PileOnCanvas {
  private size: readonly [number, number] = [0, 0];
  private drawn: Drawn | undefined;
  private seen: Seen = { lines: [], current: undefined, chosen: undefined };

  constructor(private readonly canvas: HTMLCanvasElement) {}

  resize(width: number, height: number): void {
    const ratio = window.devicePixelRatio || 1;
    this.size = [width, height];
    this.canvas.width = Math.round(width * ratio);
    this.canvas.height = Math.round(height * ratio);
    this.drawn = undefined;
    this.paint();
  }

  show(seen: Seen): void {
    this.seen = seen;
    this.paint();
  }

  private paint(): void {
    const [width, height] = this.size;
    const pen = this.canvas.getContext('2d');
    if (!pen || !width || !height) return;
    const { lines, current, chosen } = this.seen;
    if (this.drawn?.of !== lines) this.drawn = draw(this.canvas, lines, width, height);
    const { canvas, ink, paper } = this.drawn;
    const { pitch, thickness, margin } = measures(width, height, lines.length);
    pen.setTransform(1, 0, 0, 1, 0, 0);
    pen.clearRect(0, 0, this.canvas.width, this.canvas.height);
    pen.drawImage(canvas, 0, 0);
    pen.scale(this.canvas.width / width, this.canvas.height / height);
    pen.fillStyle = ink;
    for (const index of chosen ?? []) pen.fillRect(width - 4, index * pitch, 4, Math.max(pitch, 1));
    if (current === undefined || !lines[current]) return;
    // Two lines, one of which is seen on whatever lies beneath.
    const [y, high] = [current * pitch - 1.5, Math.max(4, thickness + 3)];
    for (const [wide, colour] of [
      [4, paper],
      [2, ink],
    ] as const) {
      pen.lineWidth = wide;
      pen.strokeStyle = colour;
      pen.strokeRect(margin - 2, y, width - margin, high);
    }
  }
}

function measures(width: number, height: number, count: number) {
  const { pitch } = pile(height, count);
  return { pitch, thickness: Math.max(Math.min(THINNEST, pitch), pitch * 0.72), margin: width > 60 ? 12 : 7 };
}

function draw(on: HTMLCanvasElement, lines: readonly EdgeLine[], width: number, height: number): Drawn {
  const style = getComputedStyle(on);
  const ink = style.getPropertyValue('--color-surround-ink');
  const canvas = document.createElement('canvas');
  canvas.width = on.width;
  canvas.height = on.height;
  const drawn = { of: lines, canvas, ink, paper: style.getPropertyValue('--color-paper') };
  const pen = canvas.getContext('2d');
  if (!pen) return drawn;
  pen.scale(on.width / width, on.height / height);
  pen.strokeStyle = ink;
  const { pitch, thickness, margin } = measures(width, height, lines.length);
  const tallest = Math.max(1, ...lines.map((line) => line.height_mm));
  for (const [index, line] of lines.entries()) {
    const y = index * pitch;
    if (line.state === 'aside') {
      pen.fillStyle = ink;
      pen.fillRect(margin, y + thickness / 2, 3, Math.min(1, thickness));
    } else {
      const known = line.height_mm > 0;
      const tone = known ? line.tone : 110;
      pen.fillStyle = `rgb(${tone} ${tone} ${tone})`;
      const long = known ? (width - margin - 2) * (0.28 + 0.72 * (line.height_mm / tallest)) : width * 0.3;
      pen.fillRect(margin, y, long, thickness);
    }
    if (line.state === 'failed' || line.verdict === 'review') {
      const size = Math.min(6, Math.max(2, thickness));
      pen.fillStyle = ink;
      if (line.state === 'failed') pen.fillRect(2, y + (thickness - size) / 2, size, size);
      else pen.strokeRect(2.5, y + (thickness - size) / 2 + 0.5, size - 1, size - 1);
    }
  }
  return drawn;
}
