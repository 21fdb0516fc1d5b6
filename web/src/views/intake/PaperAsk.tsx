import type { PaperModel } from '@/hooks/usePaper';
import { Button } from '@/ui/Button';
import type { PaperSource } from '@/words/paper';
import { PaperDrawing } from './PaperDrawing';

/** The drawing of how paper goes in, where it is known. */
export function PaperPicture({
  paper,
  source,
  className,
}: {
  paper: PaperModel;
  source: PaperSource;
  className: string;
}) {
  return paper.known ? <PaperDrawing source={source} path={paper.known} className={className} /> : null;
}

/** Says how paper goes in, or says it otherwise. */
export function PaperAsk({ paper }: { paper: PaperModel }) {
  if (!paper.may) return null;
  return (
    <Button size="small" className="align-middle" onClick={paper.open}>
      How paper goes in …
    </Button>
  );
}
