import { useEffect, useState } from 'react';

/** Whether the same thing has stood there for a while: what is only passed by is not worked for. */
export function useSettled(of: number, ms: number): boolean {
  const [settled, setSettled] = useState<number>();
  useEffect(() => {
    const timer = setTimeout(() => setSettled(of), ms);
    return () => clearTimeout(timer);
  }, [of, ms]);
  return settled === of;
}
