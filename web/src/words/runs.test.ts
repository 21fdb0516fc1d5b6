import { describe, expect, it } from 'vitest';
import type { Run } from '@/api/types';
import { cameWords, runWords } from './runs';

const run = (state: Run['state'], more: Partial<Run> = {}) =>
  ({ state, problem: '', outcome: '', expected: null, received: 3, settings: { sheets: null }, ...more }) as Run;

describe('how a capture stands', () => {
  it('never says that everything is in where it is not known', () => {
    expect(runWords(run('done'))).toBe('Finished: what came is in the stack');
    expect(runWords(run('done', { expected: 3 }))).toBe('Finished: all is in the stack');
    const early = 'Ended early at sheet 4: 3 of 8 images came, and what came is in the stack.';
    expect(runWords(run('done', { expected: 8, outcome: early }))).toBe(early);
  });

  it('tells a pause from a stop', () => {
    expect(runWords(run('stopped', { problem: 'A sheet is jammed at sheet 4: …' }))).toBe('Stopped');
    expect(runWords(run('stopped', { problem: 'Paused before sheet 4: …' }))).toBe('Paused');
  });

  it('says where discarded pages are', () => {
    const binned = 'Discarded: 3 pages lie in the bin for 30 days.';
    expect(runWords(run('cancelled', { outcome: binned }))).toBe(binned);
    expect(runWords(run('cancelled'))).toBe('Discarded: nothing had come.');
  });
});

describe('what came', () => {
  it.each([
    [{ expected: 16, settings: { sheets: 8 } }, '8 sheets laid in · 3 of 16 images came'],
    [{ settings: { sheets: null } }, '3 images came'],
    [{ expected: 1, received: 0 }, '0 of 1 image came'],
  ])('%j', (more, said) => expect(cameWords(run('running', more as Partial<Run>))).toBe(said));

  it('is nothing of a capture that was discarded', () => {
    expect(cameWords(run('cancelled'))).toBe('');
  });
});
