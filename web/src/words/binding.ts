/** Binding in words: profiles, parts of a page, numbers of pages, how a size was found. */

import type { AccessSettings, Binding, BoundPart, DraftLabels, PageMark } from '@/api/types';
import { bytes } from './figures';

export const PROFILES: Record<Binding['profile'], string> = {
  compact: 'Compact',
  preservation: 'Preservation',
  'text only': 'Text only',
  pictures: 'Pictures',
  'as captured': 'As captured',
};

export const PARTS: Record<BoundPart['kind'], string> = {
  page: 'One picture',
  ink: 'Ink',
  pictures: 'Pictures',
  paper: 'Paper',
};

export const MARKS: Record<PageMark['kind'], string> = {
  cover: 'Cover',
  highlight: 'Highlight',
  frame: 'Frame',
  note: 'Note',
};

export const PLACES: readonly { value: AccessSettings['watermark']['place']; label: string }[] = [
  { value: 'across', label: 'Across the page' },
  { value: 'head', label: 'At the head' },
  { value: 'foot', label: 'At the foot' },
];

/** The most that images of an access copy have. */
export const FINENESS: readonly { value: string; label: string }[] = [
  { value: '100', label: '100 ppi: small' },
  { value: '150', label: '150 ppi: for reading' },
  { value: '200', label: '200 ppi: fine' },
  { value: 'bound', label: 'As bound' },
];

export type Style = NonNullable<DraftLabels['style']>;
export const STYLES: readonly { value: Style; label: string }[] = [
  { value: 'arabic', label: '1, 2, 3' },
  { value: 'roman', label: 'i, ii, iii' },
  { value: 'ROMAN', label: 'I, II, III' },
  { value: 'leaves', label: '1r, 1v, 2r: leaves' },
  { value: 'text', label: 'The prefix alone' },
];

/** How large the documents are likely to be, and how that is known. */
export function forecastWords({ forecast }: Pick<Binding, 'forecast'>): string {
  const { state, sampled, of } = forecast;
  if (forecast.bytes === null) return state === 'sampling' ? 'packing a few pages …' : 'cannot be told';
  const about = bytes(forecast.bytes);
  if (state === 'exact') return about;
  return state === 'estimated' ? `about ${about}` : `about ${about}, from ${sampled} of ${of} pages`;
}

/** A size as a share of the masters': 1/31 of them, or 82 %. */
export function shareWords(of: number, masters: number): string {
  if (!of || !masters) return '';
  if (of > masters) return 'more than the masters';
  return masters / of < 3
    ? `${Math.round((100 * of) / masters)} % of the masters`
    : `1/${Math.round(masters / of)} of the masters`;
}

/** Several names in a field, and back. */
export const listed = (value: string | readonly string[] | undefined): string =>
  value === undefined ? '' : typeof value === 'string' ? value : value.join('; ');
export const parted = (text: string): string[] =>
  text
    .split(';')
    .map((one) => one.trim())
    .filter(Boolean);
