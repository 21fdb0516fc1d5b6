// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { bindingQuery, useBinding } from './binding';
import type { Binding } from './types';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const draft = (titles: Record<string, string>) =>
  ({
    documents: Object.fromEntries(Object.entries(titles).map(([page, title]) => [page, { title, described: {} }])),
    left_out: [4],
    marks: { 7: [{ id: 'a', kind: 'cover', box: [0, 0, 1, 1], text: '' }] },
  }) as unknown as Binding;

/** A server whose answers are given when they are asked for, and the hook before it. */
function before(first: Binding) {
  const asked: { body: unknown; answer: (binding: Binding) => void }[] = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = await request.json();
    return new Promise<Response>((resolve) =>
      asked.push({ body, answer: (binding) => resolve(Response.json(binding)) }),
    );
  });
  vi.stubGlobal('location', new URL('http://localhost/'));
  const client = new QueryClient({ defaultOptions: { mutations: { retry: false } } });
  const { queryKey } = bindingQuery(3, 1);
  client.setQueryData(queryKey, first);
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const { result } = renderHook(() => useBinding(3, 1), { wrapper });
  return { asked, say: result.current.mutate, shown: () => client.getQueryData<Binding>(queryKey) };
}

it('says one thing after the other, and shows no answer that is older than what was said last', async () => {
  const { asked, say, shown } = before(draft({}));
  const titles = () => Object.entries(shown()?.documents ?? {}).map(([page, said]) => `${page} ${said.title}`);
  await act(async () => say({ documents: { 1: { title: 'Letter', described: {} } } }));
  await act(async () => say({ documents: { 2: { title: 'Card', described: {} } } }));
  await waitFor(() => expect(titles()).toEqual(['1 Letter', '2 Card']));
  expect(asked).toHaveLength(1);
  await act(async () => asked[0]?.answer(draft({ 1: 'Letter' })));
  await waitFor(() => expect(asked).toHaveLength(2));
  expect(titles()).toEqual(['1 Letter', '2 Card']);
  await act(async () => asked[1]?.answer(draft({ 1: 'Letter', 2: 'Card.' })));
  await waitFor(() => expect(titles()).toEqual(['1 Letter', '2 Card.']));
});

it('shows marks at once, those of other pages as they were', async () => {
  const { say, shown } = before(draft({}));
  const mark = { id: 'b', kind: 'note' as const, box: [0, 0, 0.5, 0.5] as [number, number, number, number], text: '' };
  await act(async () => say({ marks: { 8: { put: [mark], gone: [] }, 7: { put: [], gone: ['a'] } } }));
  await waitFor(() => expect(shown()?.marks).toEqual({ 7: [], 8: [mark] }));
  await act(async () => say({ left_out: { 5: true } }));
  await waitFor(() => expect(shown()?.left_out).toEqual([4, 5]));
  await act(async () => say({ left_out: { 4: false, 5: true } }));
  await waitFor(() => expect(shown()?.left_out).toEqual([5]));
});
