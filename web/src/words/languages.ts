/** Languages in words. */

export type Named = { code: string; name: string };

/** The languages of a sum such as eng+deu, by name; a code where nobody knows one. */
export function languageWords(language: string, known: readonly Named[]): string {
  const names = new Map(known.map(({ code, name }) => [code, name]));
  return language
    .split('+')
    .map((code) => names.get(code) ?? code)
    .join(' and ');
}
