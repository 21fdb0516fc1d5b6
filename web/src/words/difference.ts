import { count } from './figures';

/** What a difference shows, in a line. */
export function differenceWords(went: number, came: number): string {
  if (went + came === 0) return 'Nothing went or came that is larger than a speck';
  const said = [places(went, 'went'), places(came, 'came')].filter((one) => one !== '');
  return said.join(', ');
}

const places = (many: number, what: string) =>
  many === 0 ? '' : many === 1 ? `1 place where something ${what}` : `${count(many)} places where something ${what}`;
