import { describe, expect, it } from 'vitest';
import type { OrderSlip, PaperSize, Stack } from '@/api/types';
import { ASKS, draftFrom, draftOf, jobOf, NOTHING, shifted, unfit, unsaid, withAsked } from './slip';
import { FIRST_WISH } from './wish';

const papers = [{ name: 'A4', width_mm: 210, height_mm: 297, standard: '' }] as PaperSize[];
const stack = { treatment: 'everyday', new_document_after: 'number of pages', pages_a_document: 2 } as Stack;
const draft = { ...draftFrom({ ...FIRST_WISH, station: 3, source: 'feeder', sides: 'both' }, stack), name: 'Letters' };

describe('an order slip in hand', () => {
  it('comes from what is asked of a station now, and leaves behind what lies there now', () => {
    const made = draftFrom({ ...FIRST_WISH, station: 3, sheets: '12', place: 'after' }, stack);
    expect(made).toMatchObject({ name: '', treatment: 'everyday', pages_a_document: 2 });
    expect(jobOf(made, papers)?.settings).toMatchObject({ sheets: null, place: 'end', page: null, frames: [] });
  });

  it('kept and opened again it says the same', () => {
    const job = jobOf({ ...draft, asks: ['box'], original: { ...NOTHING, after: 'back' } }, papers);
    const slip = { ...job, id: 1, station: 3 } as unknown as OrderSlip;
    expect(jobOf(draftOf(slip, papers), papers)).toEqual(job);
    const sized = jobOf({ ...draft, wish: { ...draft.wish, paper: 'A4', slow: true } }, papers);
    expect(sized?.settings).toMatchObject({ paper: [210, 297], slow: true });
    expect(jobOf(draftOf({ ...slip, ...sized } as unknown as OrderSlip, papers), papers)).toEqual(sized);
  });

  it('needs a name, a station, and no hand in between', () => {
    expect(unfit(draft)).toBeUndefined();
    expect(unfit({ ...draft, name: ' ' })).toContain('name');
    expect(unfit({ ...draft, wish: { ...draft.wish, station: undefined } })).toContain('station');
    expect(jobOf({ ...draft, wish: { ...draft.wish, station: undefined } }, papers)).toBeUndefined();
    expect(unfit({ ...draft, wish: { ...draft.wish, sides: 'apart' } })).toContain('hand in between');
    expect(unfit({ ...draft, wish: { ...draft.wish, sides: 'apart', source: 'platen' } })).toBeUndefined();
  });

  it('asks in one order, whatever was ticked first', () => {
    expect(withAsked(['box'], 'title', true)).toEqual(['title', 'box']);
    expect(withAsked(['title', 'box'], 'title', false)).toEqual(['box']);
    expect(withAsked([...ASKS], 'year', true)).toEqual(ASKS);
  });

  it('tells what nobody has said', () => {
    const said = { title: ' ', original: { ...NOTHING, box: '27', after: 'back' as const } };
    expect(unsaid(['title', 'box', 'year', 'after'], said)).toEqual(['title', 'year']);
    expect(unsaid([], said)).toEqual([]);
  });

  it('is put a place further up or down', () => {
    expect(shifted([1, 2, 3], 2, -1)).toEqual([2, 1, 3]);
    expect(shifted([1, 2, 3], 2, 1)).toEqual([1, 3, 2]);
    expect(shifted([1, 2, 3], 1, -1)).toBeUndefined();
    expect(shifted([1, 2, 3], 3, 1)).toBeUndefined();
    expect(shifted([1, 2, 3], 9, 1)).toBeUndefined();
  });
});
