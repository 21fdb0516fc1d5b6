import { useRef } from 'react';
import { chosen, type Named } from '@/engine/uploads/files';

/** The system's dialogs for files and for a folder: inputs to be placed anywhere, and what opens them. */
export function useFilePicker(onFiles: (files: Named[]) => void) {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const take = (event: React.ChangeEvent<HTMLInputElement>) => {
    onFiles(chosen(event.target.files));
    event.target.value = '';
  };
  const inputs = (
    <>
      <input ref={files} type="file" multiple hidden aria-label="Files" onChange={take} />
      <input
        ref={(element) => {
          folder.current = element;
          element?.setAttribute('webkitdirectory', '');
        }}
        type="file"
        hidden
        aria-label="Folder"
        onChange={take}
      />
    </>
  );
  return { inputs, chooseFiles: () => files.current?.click(), chooseFolder: () => folder.current?.click() };
}
