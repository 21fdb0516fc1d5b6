import { describe, expect, it } from 'vitest';
import type { FormSchema } from '@/api/treatments';
import { groupsOf, valueAt, withValue } from './settings';

const SCHEMA: FormSchema = {
  properties: {
    name: { type: 'string' },
    level: { type: 'boolean', title: 'Level', group: 'Geometry' },
    ppi: {
      title: 'Resolution',
      unit: 'ppi',
      group: 'Output',
      anyOf: [{ type: 'integer', minimum: 72, maximum: 600 }, { type: 'null' }],
    },
    size: { enum: ['as found', 'uniform'], type: 'string', title: 'Page size', group: 'Geometry' },
    adjust: { $ref: '#/$defs/Adjust', group: 'Tone' },
    words: { type: 'array', group: 'Tone' },
  },
  $defs: {
    Adjust: { properties: { gamma: { type: 'number', minimum: 0.2, maximum: 5, default: 1, title: 'Gamma' } } },
  },
};

describe('the form of a treatment', () => {
  const groups = groupsOf(SCHEMA);
  const fields = groups.flatMap((group) => group.fields);
  const field = (title: string) => fields.find((one) => one.title === title);

  it('has its settings under their headings, in their order, without those that stand elsewhere', () => {
    expect(groups.map(({ title }) => title)).toEqual(['Geometry', 'Output', 'Tone']);
    expect(fields.map(({ title }) => title)).toEqual(['Level', 'Page size', 'Resolution', 'Gamma']);
  });

  it('asks for each in its own way', () => {
    expect(field('Level')).toMatchObject({ kind: 'yes or no', path: ['level'] });
    expect(field('Page size')).toMatchObject({ kind: 'choice', options: ['as found', 'uniform'] });
    expect(field('Resolution')).toMatchObject({
      kind: 'number',
      min: 72,
      max: 600,
      optional: true,
      slides: false,
      unit: 'ppi',
    });
    expect(field('Gamma')).toMatchObject({ path: ['adjust', 'gamma'], optional: false, slides: true, rest: 1 });
  });
});

describe('a setting', () => {
  const values = { level: true, adjust: { gamma: 1.2, black: 3 } };

  it('is found wherever it lies', () => {
    expect(valueAt(values, ['adjust', 'gamma'])).toBe(1.2);
    expect(valueAt(values, ['absent', 'gamma'])).toBeUndefined();
  });

  it('is set without touching any other, or what was there before', () => {
    expect(withValue(values, ['adjust', 'gamma'], 2)).toEqual({ level: true, adjust: { gamma: 2, black: 3 } });
    expect(withValue(values, ['calibration', 'name'], 'x')).toEqual({ ...values, calibration: { name: 'x' } });
    expect(values.adjust.gamma).toBe(1.2);
  });
});
