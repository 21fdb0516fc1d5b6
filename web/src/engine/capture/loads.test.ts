import { describe, expect, it } from 'vitest';
import type { PageRow, Run } from '@/api/types';
import { type Happening, loading, NO_LOADS, seen } from './loads';

const run = (id: number, state: Run['state'], more: object = {}) =>
  ({
    id,
    state,
    station: 1,
    binds_as: '',
    received: 0,
    single: [],
    settings: { half: '' },
    files: [],
    ...more,
  }) as unknown as Run;
const listed = (...runs: Run[]): Happening => ({ kind: 'listed', runs });
const having = (...happenings: Happening[]) => happenings.reduce(loading, NO_LOADS);
const shown = (runs: Run[], happenings: Happening[], pages: PageRow[] = []) =>
  seen(having(...happenings), runs, 1, pages);

describe('a capture', () => {
  it('that was over when the stack was opened is history, whatever the clocks say', () => {
    const old = run(4, 'done', { started_at: new Date().toISOString() });
    expect(shown([old], [listed(old)]).run).toBeUndefined();
    expect(shown([run(5, 'done'), old], [listed(old)]).run?.id).toBe(5);
  });

  it('under way, or stopped, is seen whenever it began', () => {
    for (const state of ['wanted', 'running', 'pausing', 'stopped', 'finishing', 'cancelling'] as const)
      expect(shown([run(4, state)], [listed(run(4, state))]).run?.id).toBe(4);
  });

  it('that came to its end here is seen until it is left', () => {
    const running = run(4, 'running');
    const done = run(4, 'done');
    expect(shown([done], [listed(running)]).run?.id).toBe(4);
    expect(shown([done], [listed(running), { kind: 'leave', run: 4 }]).run).toBeUndefined();
  });

  it('of another station is not in the way, unless it binds by itself', () => {
    expect(shown([run(4, 'done', { station: 2 })], [listed()]).run).toBeUndefined();
    expect(shown([run(4, 'done', { station: 2, binds_as: 'Letters' })], [listed()]).run?.id).toBe(4);
  });
});

describe('fronts and backs', () => {
  const fronts = run(2, 'done', { settings: { half: 'fronts' }, files: [{ index: 0, page: 11 }] });
  const backs = run(3, 'done', { settings: { half: 'backs' }, files: [{ index: 0, page: 12 }] });
  const two = [
    { id: 11, number: 1 },
    { id: 12, number: 2 },
  ] as PageRow[];

  it('that are in and lie behind each other wait to be brought together, when the backs come or when it is asked for', () => {
    const apart = seen(having(listed(fronts)), [backs, fronts], 1, two);
    expect(apart).toMatchObject({ unwoven: false, weaving: false });
    const three = [...two, { id: 13, number: 3 }] as PageRow[];
    const more = {
      ...fronts,
      files: [
        { index: 0, page: 11 },
        { index: 1, page: 12 },
      ],
    } as unknown as Run;
    const last = { ...backs, files: [{ index: 0, page: 13 }] } as unknown as Run;
    expect(seen(having(listed(more)), [last, more], 1, three)).toMatchObject({ unwoven: true, weaving: true });
    const history = having(listed(last, more));
    expect(seen(history, [last, more], 1, three)).toMatchObject({ unwoven: true, weaving: false });
    expect(seen(loading(history, { kind: 'weave' }), [last, more], 1, three).weaving).toBe(true);
  });

  it('wait for as many backs as sheets were captured and not marked, on whichever screen', () => {
    const loaded = { ...fronts, received: 3, single: [2] } as Run;
    expect(shown([loaded], [listed(loaded)], two)).toMatchObject({ left: 2, single: new Set([2]) });
    expect(shown([backs, loaded], [listed(loaded)], two).left).toBe(0);
  });

  it('wait for nothing where what came was undone', () => {
    const loaded = { ...fronts, received: 1, single: [] as number[] } as Run;
    expect(shown([loaded], [listed(loaded)], two).left).toBe(1);
    expect(shown([loaded], [listed(loaded)], [{ id: 12, number: 1 }] as PageRow[]).left).toBe(0);
  });

  it('have those sheets without a back that were marked last, and of another load none of these', () => {
    const loaded = { ...fronts, received: 3, single: [] as number[] } as Run;
    const marked: Happening = { kind: 'single', run: 2, sheets: new Set([0, 1]) };
    expect(shown([loaded], [listed(loaded), marked], two)).toMatchObject({ left: 1, single: new Set([0, 1]) });
    const next = { ...loaded, id: 5 } as Run;
    expect(shown([next, loaded], [listed(loaded), marked], two)).toMatchObject({ left: 3, single: new Set() });
  });
});
