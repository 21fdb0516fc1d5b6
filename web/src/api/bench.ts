import { useEffect, useRef, useState } from 'react';
import { post } from './client';
import type { components } from './schema';
import type { TreatmentSettings } from './treatments';

export type Correction = components['schemas']['Correction'];
export type Adjustments = components['schemas']['Adjustments'];
/** A correction, or another line between the two halves of an image. */
export type Wish = Correction & { split?: { start: [number, number]; end: [number, number] } };
export type Preview = components['schemas']['Preview'];

export type Previewed = {
  data: Preview | undefined;
  /** What was asked for when it came. */
  of: string | undefined;
  error: string | undefined;
};

/**
 * What a page would look like. One question at a time, and then only the latest: hands are quicker than answers.
 * `page` is undefined while nothing is to be asked.
 */
export function usePreview(
  page: number | undefined,
  revision: string,
  tried: Wish,
  longest: number,
  treatment?: TreatmentSettings,
): Previewed {
  const [state, setState] = useState<Previewed & { page?: number }>({
    data: undefined,
    of: undefined,
    error: undefined,
  });
  const { split, ...correction } = tried;
  const wanted =
    page === undefined ? undefined : JSON.stringify({ page, revision, correction, split, longest, treatment });
  const latest = useRef(wanted);
  const asking = useRef(false);
  useEffect(() => {
    latest.current = wanted;
    if (asking.current || !wanted) return;
    const ask = async (question: string) => {
      asking.current = true;
      const { page, revision, ...asked } = JSON.parse(question);
      try {
        const data = await post<Preview>(`/api/v1/pages/${page}/preview`, asked);
        setState({ data, of: question, error: undefined, page });
      } catch (error) {
        setState((now) => ({ ...now, of: question, error: (error as Error).message, page }));
      }
      asking.current = false;
      if (latest.current && latest.current !== question) ask(latest.current);
    };
    ask(wanted);
  }, [wanted]);
  const mine = state.page === page && page !== undefined;
  return mine ? state : { data: undefined, of: undefined, error: undefined };
}
