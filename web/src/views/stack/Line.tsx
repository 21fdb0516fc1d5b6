import { useEffect, useState } from 'react';

/** The line to the server is lost: when it is tried again, counted down. `at`: by performance.now(). */
export function Line({ at }: { at: number }) {
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(performance.now()), 500);
    return () => clearInterval(timer);
  }, []);
  const seconds = Math.ceil((at - now) / 1000);
  return (
    <p role="status" className="shrink-0 border-b border-hairline bg-slip px-6 py-1.5">
      The line to the server is lost, and what you see may be old.{' '}
      <span aria-hidden="true">{seconds > 0 ? `It is tried again in ${seconds} s.` : 'It is being tried again.'}</span>
    </p>
  );
}
