import { useState } from 'react';
import type { Stack } from '@/api/types';
import { draftFrom } from '@/engine/capture/slip';
import type { Wish } from '@/engine/capture/wish';
import { Button } from '@/ui/Button';
import { SlipSheet } from '../slips/SlipSheet';

/** Keeps what is asked of the station, and what becomes of the pages, as an order slip. */
export function SaveSlip({ wish, stack }: { wish: Wish; stack: Stack | undefined }) {
  const [open, setOpen] = useState(false);
  const apart = wish.source === 'feeder' && wish.sides === 'apart';
  const why = !stack ? 'Begin the stack first.' : apart ? 'Fronts and backs apart need a hand in between.' : undefined;
  return (
    <>
      <Button {...(why ? { why } : {})} onClick={() => setOpen(true)}>
        Keep as a slip …
      </Button>
      {open && stack && <SlipSheet first={draftFrom(wish, stack)} onLeave={() => setOpen(false)} />}
    </>
  );
}
