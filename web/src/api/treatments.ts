import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, told } from './client';
import type { components } from './schema';

export type TreatmentSettings = components['schemas']['Treatment'];
export type TreatmentInfo = components['schemas']['TreatmentOut'];

/** What of a JSON Schema a form needs. */
export type SettingSchema = {
  title?: string;
  description?: string;
  type?: string;
  enum?: string[];
  default?: unknown;
  minimum?: number;
  maximum?: number;
  anyOf?: SettingSchema[];
  $ref?: string;
  group?: string;
  unit?: string;
};
export type FormSchema = {
  properties: Record<string, SettingSchema>;
  $defs: Record<string, { properties: Record<string, SettingSchema> }>;
};

/** The schema of a treatment as a form reads it: what is no object of fields has none. */
const asForm = (schema: Record<string, unknown>): FormSchema => ({ properties: {}, $defs: {}, ...schema });

export const treatmentsQuery = queryOptions({
  queryKey: ['treatments'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/treatments', { signal })),
});

export const settingsQuery = (name: string, version: number | undefined) =>
  queryOptions({
    queryKey: ['treatment', name, version],
    queryFn: ({ signal }) =>
      told(
        api.GET('/api/v1/treatments/settings', {
          params: { query: { name, ...(version === undefined ? {} : { version }) } },
          signal,
        }),
      ),
  });

export const formQuery = queryOptions({
  queryKey: ['treatment form'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/treatments/form', { signal })).then(asForm),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Save a version, take the newest back, bring one back. */
export function useVersions() {
  const client = useQueryClient();
  const fresh = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ['treatments'] }),
      client.invalidateQueries({ queryKey: ['treatment'] }),
    ]);
  const save = useMutation({
    mutationFn: (settings: TreatmentSettings) => told(api.POST('/api/v1/treatments', { body: settings })),
    onSuccess: fresh,
  });
  const turn = useMutation({
    mutationFn: ({ way, ...which }: { way: 'take-back' | 'bring-back'; name: string; version: number }) =>
      told(
        way === 'take-back'
          ? api.POST('/api/v1/treatments/take-back', { body: which })
          : api.POST('/api/v1/treatments/bring-back', { body: which }),
      ),
    onSettled: fresh,
  });
  return { save, turn };
}
