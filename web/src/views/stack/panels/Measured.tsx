import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useMemo } from 'react';
import { pageQuery } from '@/api/queries';
import type { Finding, Page, PageRow } from '@/api/types';
import { Fact, Facts as List } from '@/ui/Facts';
import { Fold } from '@/ui/Fold';
import { Gauge } from '@/ui/Gauge';
import { Mark, STATE_WORDS } from '@/ui/Mark';
import { Spot } from '@/ui/Spot';
import { COLOUR_WORDS } from '@/words/colours';
import { bytes, figure, size, time } from '@/words/figures';
import { CoverSaid } from '../CoverSaid';
import { Formers, MasterRecord } from './Record';
import { StationCheck } from './StationCheck';

/** Origins of pages that came from a station. */
const FROM_STATIONS = new Set<PageRow['origin']>(['platen', 'feeder']);

export type MeasuredProps = { stackId: number; page: PageRow; pages: PageRow[]; action: ReactNode };

/** What is known of the page, in words and figures, each against the whole stack. */
export function Measured({ stackId, page, pages, action }: MeasuredProps) {
  const { data: latest, error } = useQuery(pageQuery(page.id, String(page.change)));
  const data = latest?.row.id === page.id ? latest : undefined;
  const known = useMemo(() => pages.filter((one) => one.skew_deg !== null && one.state !== 'failed'), [pages]);
  const inked = useMemo(() => known.map((one) => one.ink_percent ?? 0), [known]);
  const marked = useMemo(() => known.filter((one) => one.state !== 'aside'), [known]);
  const tilts = useMemo(() => marked.map((one) => one.skew_deg ?? 0), [marked]);
  const heights = useMemo(() => known.map((one) => one.height_mm), [known]);
  const read = useMemo(
    () => pages.flatMap((one) => (one.confidence === null || !one.words ? [] : [one.confidence])),
    [pages],
  );
  return (
    <div className="flex flex-col gap-4 p-4">
      <div>
        <h2 className="flex items-center gap-2 text-title font-semibold">
          Page {page.number}
          <Mark state={page.state} verdict={page.verdict} />
        </h2>
        <p className="[overflow-wrap:anywhere] text-soft">
          {page.source}
          {page.frames > 1 && `, image ${page.frame + 1} of ${page.frames}`}
        </p>
        <p className="mt-1">
          {standing(page)} {page.aside === 'cover sheet' && <CoverSaid stackId={stackId} pages={pages} page={page} />}
        </p>
      </div>
      {action}
      {error && <p role="alert">{error.message}</p>}
      {page.original && (
        <div className="flex flex-col gap-3">
          <Gauge
            label="Tilt as captured"
            value={page.aside === 'blank' ? null : page.skew_deg}
            fellows={tilts}
            shown={page.aside === 'blank' ? '–' : figure(page.skew_deg ?? 0, 2, '°')}
            note={tiltWords(page, data)}
          />
          <Gauge label="Ink" value={page.ink_percent} fellows={inked} shown={figure(page.ink_percent ?? 0, 3, '%')} />
          <Gauge label="Height" value={page.height_mm} fellows={heights} shown={figure(page.height_mm, 1, 'mm')} />
          <Gauge
            label="Confidence of the text"
            value={page.words ? page.confidence : null}
            fellows={read}
            shown={page.words ? figure(page.confidence ?? 0, 1, '%') : '–'}
            note={page.words === null ? undefined : page.words === 1 ? '1 word' : `${page.words} words`}
          />
        </div>
      )}
      {data?.measurements && <Facts data={data} />}
      {data && data.waiting.length > 0 && page.state !== 'failed' && <Findings page={page} findings={data.waiting} />}
      {data && <MasterRecord record={data.record} />}
      {data && FROM_STATIONS.has(page.origin) && <StationCheck page={page.id} station={data.record.device} />}
      {data && data.formers.length > 0 && <Formers formers={data.formers} />}
      {data?.text && (
        <Fold title="Text">
          <p
            // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, by key too
            tabIndex={0}
            className="mt-1 max-h-60 overflow-y-auto rounded-sm bg-ground p-2 text-small whitespace-pre-wrap select-text"
          >
            {data.text}
          </p>
        </Fold>
      )}
    </div>
  );
}

function standing(page: PageRow): string {
  if (page.state === 'failed') return page.error;
  if (page.trouble) return `Held up, tried again at ${time(page.trouble.again_at)}: ${page.trouble.message}`;
  if (page.state === 'aside') return asideWords(page.aside);
  if (page.state === 'ready') return page.verdict === 'review' ? 'Ready, worth a look.' : 'Ready.';
  return `This page ${STATE_WORDS[page.state]}.`;
}

const ASIDE_WORDS: Record<string, string> = {
  'by hand': 'Aside: held out by hand.',
  separator: 'Aside: a separator sheet.',
  'cover sheet': 'Aside: a cover sheet.',
};
const asideWords = (why: string) => ASIDE_WORDS[why] ?? `Aside: ${why}.`;

function tiltWords(page: PageRow, data: Page | undefined): string | undefined {
  if (page.aside === 'blank' || !data?.plan) return undefined;
  const turned = data.plan.turn ? `turned ${data.plan.turn}°` : '';
  const tilt = data.plan.skew_deg;
  const levelled = tilt ? `levelled by ${figure(-tilt, 2, '°')}` : '';
  return [turned, levelled].filter(Boolean).join(', ') || 'not turned';
}

function Facts({ data }: { data: Page }) {
  const { row, measurements: found, plan } = data;
  if (!found) return null;
  const lost = data.findings.find(({ check }) => check === 'content')?.value ?? undefined;
  return (
    <List>
      <Fact label="Resolution" value={found.ppi ? `${figure(found.ppi[0], 0)} ppi` : 'not stated, 300 ppi taken'} />
      <Fact label="Captured" value={size(row.original_px)} />
      <Fact label="Corrected" value={size(row.clean_px)} />
      <Fact label="Lid" value={found.lid_seen ? 'seen, cut away' : 'none'} />
      <Fact label="Saved as" value={plan ? COLOUR_WORDS[plan.colour] : '–'} />
      <Fact label="Colour share" value={figure(found.coloured_percent, 2, '%')} />
      <Fact label="Content lost" value={lost === undefined ? '–' : figure(lost, 3, '%')} />
      <Fact label="In the PDF" value={row.bytes === null || row.state === 'aside' ? '–' : bytes(row.bytes)} />
    </List>
  );
}

function Findings({ page, findings }: { page: PageRow; findings: Finding[] }) {
  return (
    <section aria-label="Findings">
      <h3 className="mb-1 text-small text-soft">Worth a look</h3>
      <ul className="flex flex-col gap-1">
        {findings.map((finding) => (
          <li key={`${finding.check} ${finding.message}`} className="border-l-3 border-ink pl-2.5">
            {finding.message}
            <Spot page={page} fault={finding} />
          </li>
        ))}
      </ul>
    </section>
  );
}
