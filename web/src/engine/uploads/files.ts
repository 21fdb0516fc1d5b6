/** What was dropped or chosen, as files in natural order. Hidden files are passed over. */

export type Named = { file: File; name: string };

const order = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

export function inOrder(files: Named[]): Named[] {
  return files
    .filter(({ name }) => !name.split('/').some((part) => part.startsWith('.')))
    .sort((a, b) => order.compare(a.name, b.name));
}

/** Chosen with a file dialog; a chosen folder gives paths. */
export function chosen(list: FileList | null): Named[] {
  return inOrder([...(list ?? [])].map((file) => ({ file, name: file.webkitRelativePath || file.name })));
}

/** Dropped, folders opened all the way down. Entries must be taken while the drop event runs. */
export async function dropped(items: DataTransferItemList): Promise<Named[]> {
  const taken = [...items].map((item) => ({ entry: item.webkitGetAsEntry(), file: item.getAsFile() }));
  const found = taken.map(({ entry, file }) => (entry ? walk(entry, '') : file ? [{ file, name: file.name }] : []));
  return inOrder((await Promise.all(found)).flat());
}

async function walk(entry: FileSystemEntry, inside: string): Promise<Named[]> {
  const name = inside + entry.name;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ file, name }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: FileSystemEntry[] = [];
  for (;;) {
    // A reader gives at most a hundred at a time.
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) break;
    found.push(...some);
  }
  return (await Promise.all(found.map((one) => walk(one, `${name}/`)))).flat();
}

/** A name for the stack: the folder's, or the only file's without its ending. */
export function suggestedName(names: readonly string[]): string {
  const [first] = names;
  if (!first) return '';
  const folder = first.split('/').at(-2);
  if (folder) return folder;
  return names.length === 1 ? first.replace(/\.[^.]+$/, '') : '';
}
