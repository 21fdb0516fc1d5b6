import type { CoverSheet } from '@/api/types';
import { counted } from './figures';

/** What became of the pages behind a cover sheet; empty as long as nothing did. */
export function coverWords(sheet: CoverSheet): string {
  const said: string[] = [];
  if (sheet.filed > 0) said.push(`${wereOrWas(sheet.filed)} filed under “${sheet.name}”.`);
  if (sheet.left > 0) said.push(`${staysOrStay(sheet.left)} here: ${sheet.why_left}.`);
  return said.join(' ');
}

const wereOrWas = (number: number) => `${behind(number)} ${number === 1 ? 'was' : 'were'}`;
const staysOrStay = (number: number) => `${behind(number)} ${number === 1 ? 'stays' : 'stay'}`;
const behind = (number: number) => `${counted(number, 'page')} behind it`;
