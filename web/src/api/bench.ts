import { queryOptions } from '@tanstack/react-query';
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

/** What went and what came on a page, with its picture. */
export type Difference = components['schemas']['Difference'] & { picture: string };

/** The difference between a page as captured and its clean page, which its key names. */
export const differenceQuery = (page: number, clean: string) =>
  queryOptions({
    queryKey: ['difference', page, clean],
    staleTime: Number.POSITIVE_INFINITY,
    // Each holds a picture.
    gcTime: 60_000,
    queryFn: async ({ signal }): Promise<Difference> => {
      const { response } = await api.GET('/api/v1/pages/{page_id}/difference', {
        params: { path: { page_id: page } },
        parseAs: 'stream',
        signal,
      });
      const [told, picture] = await partsOf(response, 'difference');
      return { ...JSON.parse(told), picture: await asData(picture) };
    },
  });

/** What is told under a name, and the picture beside it. */
async function partsOf(response: Response, name: string): Promise<[string, Blob]> {
  const parts = await response.formData();
  const [told, picture] = [parts.get(name), parts.get('picture')];
  if (told === null || !(picture instanceof Blob))
    throw new Refusal('The server sent no picture of this page: try again.', 502);
  return [typeof told === 'string' ? told : await told.text(), picture];
}

/** A picture as an address that holds it: it is given up with whatever holds that. */
const asData = (picture: Blob) =>
  new Promise<string>((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(picture);
  });

/** What a page would look like. Its picture stays in this browser until its address is revoked. */
export async function previewOf({ page, revision: _, correction, split, longest, treatment }: Asked): Promise<Preview> {
  const { response } = await api.POST('/api/v1/pages/{page_id}/preview', {
    params: { path: { page_id: page } },
    body: { correction, longest, split: split ?? null, treatment: treatment ?? null },
    parseAs: 'stream',
  });
  const [told, picture] = await partsOf(response, 'preview');
  return { ...JSON.parse(told), picture: URL.createObjectURL(picture) };
}
