import type { Version } from '@/engine/version';
import { Choice } from './Choice';

export type VersionChoiceProps = { version: Version; onVersion: (version: Version) => void };

/** Pages as they were captured, or corrected. */
export function VersionChoice({ version, onVersion }: VersionChoiceProps) {
  return (
    <Choice
      label="Which image"
      value={version}
      onChange={onVersion}
      options={[
        { value: 'original', label: 'Original' },
        { value: 'clean', label: 'Corrected' },
      ]}
    />
  );
}
