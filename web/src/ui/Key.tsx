import { keyWords } from '@/engine/keys/registry';

/** A key as it is written beside what it does; readers are told by aria-keyshortcuts instead. */
export function Key({ of, shown, className = '' }: { of: string; shown?: string | undefined; className?: string }) {
  return (
    <span
      aria-hidden="true"
      className={`inline-block min-w-5 shrink-0 rounded-sm border border-current/35 px-1 text-center font-sans text-small leading-4.5 font-normal ${className}`}
    >
      {keyWords({ key: of, ...(shown ? { shown } : {}) })}
    </span>
  );
}
