/** Changes to a treatment that have not been saved as a version: kept in this browser, through reloads and other views. */

import type { TreatmentSettings } from '@/api/treatments';

const keyOf = (name: string) => `draft of ${name}`;

export type Draft = {
  /** The version that was changed. */
  version: number;
  settings: TreatmentSettings;
};

export function draftOf(name: string): Draft | undefined {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(name)) ?? 'null');
    return isDraft(kept) ? kept : undefined;
  } catch {
    return undefined;
  }
}

export function keepDraft(name: string, draft: Draft | undefined): void {
  if (draft) localStorage.setItem(keyOf(name), JSON.stringify(draft));
  else localStorage.removeItem(keyOf(name));
}

function isDraft(kept: unknown): kept is Draft {
  return typeof kept === 'object' && kept !== null && 'version' in kept && 'settings' in kept;
}
