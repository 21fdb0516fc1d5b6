// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Page } from '@/api/types';
import type { Hands } from '@/engine/changes/hands';
import { useCorrection } from './useCorrection';
import { useSelection } from './useSelection';

afterEach(cleanup);

describe('a correction on the bench', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());
  const at = (change: number) => ({ row: { change } }) as Page;

  /** Hands whose answers are given when they are asked for. */
  function answering() {
    const asked: { doing: unknown; settle: (count: number) => void; refuse: () => void }[] = [];
    const hands = {
      do: (doing: unknown) =>
        new Promise<number>((resolve, reject) =>
          asked.push({ doing, settle: resolve, refuse: () => reject(new Error()) }),
        ),
    } as Partial<Hands> as Hands;
    return { asked, hands };
  }
  const used = (hands: Hands) =>
    renderHook(({ data }: { data: Page }) => useCorrection(7, data, hands), { initialProps: { data: at(1) } });

  it('of the page before is sent when another is gone to, and is not seen on it', () => {
    const { asked, hands } = answering();
    const { result, rerender } = renderHook(({ page }) => useCorrection(page, at(1), hands), {
      initialProps: { page: 7 },
    });
    act(() => result.current.set({ skew: 0.2 }));
    rerender({ page: 8 });
    expect(asked.map(({ doing }) => doing)).toEqual([{ do: 'correct', pages: [7], correction: { skew: 0.2 } }]);
    expect([result.current.wish, result.current.pending]).toEqual([{}, false]);
    act(() => result.current.set({ skew: 0.9 }));
    act(() => void vi.advanceTimersByTime(500));
    expect(asked[1]?.doing).toEqual({ do: 'correct', pages: [8], correction: { skew: 0.9 } });
  });

  it('is sent when hands are still, and stands until the page has come with it', async () => {
    const { asked, hands } = answering();
    const { result, rerender } = used(hands);
    act(() => result.current.set({ skew: 0.1 }));
    act(() => result.current.set({ skew: 0.2 }));
    expect(asked).toHaveLength(0);
    act(() => void vi.advanceTimersByTime(500));
    expect(asked.map(({ doing }) => doing)).toEqual([{ do: 'correct', pages: [7], correction: { skew: 0.2 } }]);
    await act(async () => asked[0]?.settle(5));
    expect(result.current.pending).toBe(true);
    rerender({ data: at(5) });
    expect(result.current.pending).toBe(false);
  });

  it.each([
    ['a pull', () => new PointerEvent('pointerdown'), () => new PointerEvent('pointerup')],
    ['a pull that is broken off', () => new PointerEvent('pointerdown'), () => new PointerEvent('pointercancel')],
    ['a key', () => new KeyboardEvent('keydown', { code: 'KeyA' }), () => new KeyboardEvent('keyup', { code: 'KeyA' })],
    ['a window that was left', () => new KeyboardEvent('keydown', { code: 'KeyA' }), () => new Event('blur')],
    [
      'a key and Meta',
      () => new KeyboardEvent('keydown', { code: 'KeyA' }),
      () => new KeyboardEvent('keyup', { key: 'Meta' }),
    ],
  ])('is one change however slow: %s', (_, press, release) => {
    const { asked, hands } = answering();
    const { result } = used(hands);
    act(() => void window.dispatchEvent(press()));
    act(() => result.current.set({ skew: 0.1 }));
    act(() => void vi.advanceTimersByTime(5000));
    expect(asked).toHaveLength(0);
    act(() => result.current.set({ skew: 0.4 }));
    act(() => void window.dispatchEvent(release()));
    act(() => void vi.advanceTimersByTime(1000));
    expect(asked.map(({ doing }) => doing)).toEqual([{ do: 'correct', pages: [7], correction: { skew: 0.4 } }]);
  });

  it('that is refused goes, and what was set since stays', async () => {
    const { asked, hands } = answering();
    const { result } = used(hands);
    act(() => result.current.set({ skew: 0.2 }, true));
    act(() => result.current.set({ colour: 'grey' }));
    await act(async () => asked[0]?.refuse());
    expect(result.current.wish).toEqual({ colour: 'grey' });
  });

  it('is sent at once when the page is left, or closed', () => {
    for (const leave of [(unmount: () => void) => unmount(), () => window.dispatchEvent(new Event('pagehide'))]) {
      const { asked, hands } = answering();
      const { result, unmount } = used(hands);
      act(() => result.current.set({ skew: 0.2 }));
      act(() => void leave(unmount));
      expect(asked).toHaveLength(1);
      cleanup();
    }
  });
});

describe('what is chosen', () => {
  const ALL = [1, 2, 3, 4];
  const used = () =>
    renderHook(({ shown, all, named }) => useSelection(shown, all, named), {
      initialProps: { shown: ALL, all: ALL, named: undefined as number | undefined },
    });

  it('is settled before anything is drawn when a filter hides it', () => {
    const { result, rerender } = used();
    act(() => void result.current[1]({ kind: 'only', id: 3 }));
    rerender({ shown: [], all: ALL, named: undefined });
    expect(result.current[0].ids.size).toBe(0);
  });

  it('is the page that the address names, whether the filter shows it or not', () => {
    const { result, rerender } = used();
    rerender({ shown: [1], all: ALL, named: 4 });
    expect(result.current[0].current).toBe(4);
    rerender({ shown: [1], all: ALL, named: undefined });
    expect(result.current[0].current).toBe(1);
  });
});
