/** What keeps pages of a stack from being worked on, told once however many they are. */

import type { PageRow } from '@/api/types';

export type Troubled = {
  /** Pages that are tried again by themselves, and those that wait for a person. */
  waiting: number;
  failed: number;
  /** The sentence that most of them share, and when the first is tried again. */
  message: string;
  againAt: string | undefined;
};

/** Why pages failed, each cause once, with the pages it befell in their order. */
export function causesOf(failed: readonly PageRow[]): { message: string; pages: PageRow[] }[] {
  const pages = new Map<string, PageRow[]>();
  for (const page of failed) pages.set(page.error, [...(pages.get(page.error) ?? []), page]);
  return [...pages].map(([message, pages]) => ({ message, pages }));
}

/** What is wrong with some pages; undefined where nothing is. */
export function troubled(pages: readonly PageRow[]): Troubled | undefined {
  const waiting = pages.flatMap(({ trouble }) => (trouble ? [trouble] : []));
  const failed = pages.filter(({ state }) => state === 'failed');
  if (waiting.length + failed.length === 0) return undefined;
  const said = new Map<string, number>();
  const messages = waiting.length ? waiting.map(({ message }) => message) : failed.map(({ error }) => error);
  for (const message of messages) said.set(message, (said.get(message) ?? 0) + 1);
  const [message = ''] = [...said].sort((a, b) => b[1] - a[1])[0] ?? [];
  const againAt = waiting.map(({ again_at }) => again_at).sort()[0];
  return { waiting: waiting.length, failed: failed.length, message, againAt };
}
