import { useState } from 'react';

/** State that this browser keeps under a name; what was kept by an older version is laid over the defaults. */
export function useKept<T extends object>(name: string, initial: T): [T, (value: T) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      return { ...initial, ...JSON.parse(localStorage.getItem(name) ?? '{}') };
    } catch {
      return initial;
    }
  });
  return [
    value,
    (next) => {
      setValue(next);
      localStorage.setItem(name, JSON.stringify(next));
    },
  ];
}
