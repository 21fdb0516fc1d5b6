import { memo } from 'react';
import { Link } from 'wouter';
import type { Stack } from '@/api/types';
import { Bar } from '@/ui/Bar';
import { BareCheck } from '@/ui/Check';
import { ForeEdge } from '@/ui/ForeEdge';
import { Clipped, Tip } from '@/ui/Tip';
import { counted, day, when } from '@/words/figures';
import { pathWords } from '@/words/shelf';
import { stepAtHand, waitsOf } from '@/words/waits';

export type OnChoose = (id: number, value: boolean) => void;
export type StackProps = { stack: Stack; place: number };
export type StackRowProps = StackProps & { chosen: boolean; onChoose?: OnChoose | undefined };

/** A stack in its row: from its side, its first pages, what it is, what waits in it. Drawn again only with another stack. */
export const StackRow = memo(function StackRow({ stack, place, chosen, onChoose }: StackRowProps) {
  return (
    <div className={`flex items-center rounded-md ${chosen ? 'bg-accent-pale' : 'hover:bg-hover'}`}>
      {onChoose && (
        <span className="px-2">
          <BareCheck label={`Choose ${stack.name}`} value={chosen} onChange={(value) => onChoose(stack.id, value)} />
        </span>
      )}
      <Link
        href={`/stacks/${stack.id}`}
        data-place={place}
        className="flex min-w-0 flex-1 flex-wrap items-center gap-x-5 gap-y-2 rounded-md py-3"
      >
        <Side stack={stack} className="h-20 w-16" />
        <FirstPages stack={stack} />
        <span className="min-w-0 flex-1 basis-64">
          <Clipped text={stack.name} className="text-title font-semibold" />
          <About stack={stack} />
          {stack.filed && <Clipped text={pathWords(stack.filed.names)} className="text-small text-soft" />}
        </span>
        <span className="w-full min-w-0 sm:w-64">
          <Waiting stack={stack} />
        </span>
      </Link>
    </div>
  );
});

/** A stack on its card, for those who look for one by its shape. */
export const StackCard = memo(function StackCard({ stack, place }: StackProps) {
  return (
    <Link
      href={`/stacks/${stack.id}`}
      data-place={place}
      className="mr-6 flex h-44 gap-4 rounded-md py-3 hover:bg-hover"
    >
      <Side stack={stack} className="h-full w-24" />
      <span className="flex min-w-0 flex-1 flex-col">
        <Clipped text={stack.name} className="font-semibold" />
        <About stack={stack} />
        <span className="mt-2">
          <Waiting stack={stack} />
        </span>
      </span>
    </Link>
  );
});

function Side({ stack, className }: { stack: Stack; className: string }) {
  return (
    <span aria-hidden="true" className={`block shrink-0 bg-surround p-1 ${className}`}>
      <ForeEdge lines={stack.edge} className="h-full w-full" />
    </span>
  );
}

/** What lies on top, as it stands now. */
function FirstPages({ stack }: { stack: Stack }) {
  return (
    <span aria-hidden="true" className="hidden w-44 shrink-0 items-center gap-1.5 md:flex">
      {stack.first.map(({ step, key, px: [width, height] }) => (
        <span key={key} className="flex h-18 w-14 items-center justify-center overflow-hidden">
          <img
            src={`/thumbs/${step}/${key}.webp`}
            alt=""
            loading="lazy"
            width={width}
            height={height}
            className="h-auto max-h-full w-auto max-w-full border border-hairline"
          />
        </span>
      ))}
    </span>
  );
}

function About({ stack }: { stack: Stack }) {
  return (
    <Tip text={`Begun ${when(stack.created_at)}, last worked on ${when(stack.touched_at)}`}>
      <span className="block truncate text-soft">
        {[counted(stack.counts.pages, 'page'), stack.treatment, stack.by, day(stack.touched_at)]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </Tip>
  );
}

function Waiting({ stack }: { stack: Stack }) {
  const step = stepAtHand(stack.counts);
  return (
    <span className="flex flex-col">
      {waitsOf(stack)
        .slice(0, 3)
        .map(({ hand, text }) => (
          <span key={text} className={`line-clamp-2 ${hand ? 'font-semibold text-accent' : 'text-soft'}`}>
            {text}
          </span>
        ))}
      {step && <Bar label={step.label} value={step.done} max={step.of} className="mt-1.5" />}
    </span>
  );
}
