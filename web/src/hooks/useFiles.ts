import { useState, useSyncExternalStore } from 'react';
import { notify } from '@/engine/notices';
import type { Named } from '@/engine/uploads/files';
import { NO_UPLOADS } from '@/engine/uploads/queue';
import { takeIn, uploadsOf, type Where } from '@/engine/uploads/stackUploads';

const never = () => () => undefined;
const nothing = () => NO_UPLOADS;

/** Files on their way into a stack, and whether they are looked at. `ensure` begins the stack that they go into. */
export function useFiles(stackId: number | undefined, ensure?: (names: readonly string[]) => Promise<number>) {
  const queue = stackId === undefined ? undefined : uploadsOf(stackId);
  const uploads = useSyncExternalStore(queue?.subscribe ?? never, queue?.get ?? nothing);
  const [away, setAway] = useState(false);
  const add = async (files: Named[], where: Where = {}) => {
    if (files.length === 0) return notify('There are no files in that. Choose scans, or a folder of them.');
    setAway(false);
    try {
      const into = stackId ?? (await ensure?.(files.map(({ name }) => name)));
      if (into !== undefined) await takeIn(into, files, where);
    } catch (problem) {
      notify((problem as Error).message);
    }
  };
  return {
    queue,
    uploads,
    ids: queue?.ids() ?? NONE,
    add,
    leave: () => {
      queue?.clear();
      setAway(true);
    },
    show: () => setAway(false),
    shown: uploads.list.length > 0 && !away,
  };
}

const NONE: ReadonlySet<number> = new Set();
