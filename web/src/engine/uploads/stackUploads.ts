/** Uploads by stack: they go on while other views are looked at, and broken ones are taken up again. */

import { api, done, told } from '@/api/client';
import type { ExpectedFile } from '@/api/types';
import type { Named } from './files';
import { type Ticket, UploadQueue } from './queue';
import { sendByTus } from './tus';

export type Where = { after?: number | null; instead?: number; facing?: boolean };

const queues = new Map<number, UploadQueue>();

/** Forgets a file that was announced and is not to come. */
export const dropUpload = (id: number) =>
  done(api.DELETE('/api/v1/uploads/{upload_id}', { params: { path: { upload_id: id } } }));

export function uploadsOf(stackId: number): UploadQueue {
  const there = queues.get(stackId);
  if (there) return there;
  const made = new UploadQueue(sendByTus, dropUpload);
  queues.set(stackId, made);
  return made;
}

/** Files into a stack; those that were announced once and have not come whole go on where they stopped. */
export async function takeIn(stackId: number, files: readonly Named[], where: Where = {}): Promise<void> {
  const queue = uploadsOf(stackId);
  const params = { path: { stack_id: stackId } };
  const expected =
    where.instead === undefined ? await told(api.GET('/api/v1/stacks/{stack_id}/uploads', { params })) : [];
  const busy = queue.ids();
  const { known, fresh } = matched(
    files,
    expected.filter(({ id }) => !busy.has(id)),
  );
  const announced = fresh.length
    ? await told(
        api.POST('/api/v1/stacks/{stack_id}/uploads', {
          params,
          body: {
            facing: false,
            ...where,
            files: fresh.map(({ file, name }) => ({
              name,
              bytes: file.size,
              modified_at: new Date(file.lastModified).toISOString(),
            })),
          },
        }),
      )
    : [];
  queue.add([
    ...known,
    ...fresh.flatMap((named, at) => (announced[at] ? [{ ...named, ...placeOf(announced[at]) }] : [])),
  ]);
}

const placeOf = ({ id, batch, index }: ExpectedFile) => ({ id, batch, index });

/** Which files are those that are still expected: the same name, size and time of writing. */
export function matched(files: readonly Named[], expected: readonly ExpectedFile[]) {
  const open = [...expected];
  const known: Ticket[] = [];
  const fresh: Named[] = [];
  for (const named of files) {
    const at = open.findIndex(
      ({ name, bytes, modified_at }) =>
        name === named.name &&
        bytes === named.file.size &&
        (modified_at === null || Date.parse(modified_at) === named.file.lastModified),
    );
    const [one] = at < 0 ? [] : open.splice(at, 1);
    if (one) known.push({ ...named, ...placeOf(one) });
    else fresh.push(named);
  }
  return { known, fresh };
}
