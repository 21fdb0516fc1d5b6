import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { get, post } from './client';
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

export const treatmentsQuery = queryOptions({
  queryKey: ['treatments'],
  queryFn: ({ signal }) => get<TreatmentInfo[]>('/api/v1/treatments', signal),
});

export const settingsQuery = (name: string, version: number | undefined) =>
  queryOptions({
    queryKey: ['treatment', name, version],
    queryFn: ({ signal }) => {
      const which = new URLSearchParams({ name, ...(version === undefined ? {} : { version: String(version) }) });
      return get<TreatmentSettings>(`/api/v1/treatments/settings?${which}`, signal);
    },
  });

export const formQuery = queryOptions({
  queryKey: ['treatment form'],
  queryFn: ({ signal }) => get<FormSchema>('/api/v1/treatments/form', signal),
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
    mutationFn: (settings: TreatmentSettings) => post<TreatmentInfo>('/api/v1/treatments', settings),
    onSuccess: fresh,
  });
  const turn = useMutation({
    mutationFn: ({ way, ...which }: { way: 'take-back' | 'bring-back'; name: string; version: number }) =>
      post<TreatmentInfo>(`/api/v1/treatments/${way}`, which),
    onSettled: fresh,
  });
  return { save, turn };
}
