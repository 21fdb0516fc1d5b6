import type { Signature } from '@/api/types';
import { Button } from '@/ui/Button';

/** The inspection record to fetch. */
export function Records({ signature, main = false }: { signature: Signature; main?: boolean }) {
  const base = `/api/v1/signatures/${signature.id}/record`;
  return (
    <span className="flex flex-wrap gap-2">
      <Button asChild kind={main ? 'main' : 'plain'} size={main ? 'normal' : 'small'}>
        <a href={`${base}.pdf`} download>
          Record as PDF/A
        </a>
      </Button>
      <Button asChild size={main ? 'normal' : 'small'}>
        <a href={`${base}.json`} download>
          Record as JSON
        </a>
      </Button>
    </span>
  );
}
