import { api, Refusal } from './client';
import type { components } from './schema';
import type { TreatmentSettings } from './treatments';

export type Correction = components['schemas']['Correction'];
export type Adjustments = components['schemas']['Adjustments'];
/** A correction, or another line between the two halves of an image. */
export type Wish = Correction & { split?: { start: [number, number]; end: [number, number] } };
/** A page as it would be, with the address of its picture in this browser. */
export type Preview = components['schemas']['Preview'] & { picture: string };

export type Asked = {
  page: number;
  /** Of the page as saved: what is asked is another question when it has changed. */
  revision: string;
  correction: Correction;
  split?: Wish['split'];
  longest: number;
  treatment?: TreatmentSettings | undefined;
};

/** What a page would look like. Its picture stays in this browser until its address is revoked. */
export async function previewOf({ page, revision: _, correction, split, longest, treatment }: Asked): Promise<Preview> {
  const { response } = await api.POST('/api/v1/pages/{page_id}/preview', {
    params: { path: { page_id: page } },
    body: { correction, longest, split: split ?? null, treatment: treatment ?? null },
    parseAs: 'stream',
  });
  const parts = await response.formData();
  const [told, picture] = [parts.get('preview'), parts.get('picture')];
  if (told === null || !(picture instanceof Blob))
    throw new Refusal('The server sent no picture of this page: try again.', 502);
  const preview = typeof told === 'string' ? told : await told.text();
  return { ...JSON.parse(preview), picture: URL.createObjectURL(picture) };
}
