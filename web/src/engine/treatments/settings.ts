/** A form's fields from the schema of a treatment's settings. */

import type { FormSchema, SettingSchema } from '@/api/treatments';

export type Field = { path: readonly string[]; title: string; help: string; unit: string } & (
  | { kind: 'yes or no' }
  | { kind: 'choice'; options: string[] }
  | { kind: 'number'; min: number; max: number; optional: boolean; slides: boolean; rest: number }
);
export type Group = { title: string; fields: Field[] };

/** Settings that the view asks for in places of their own. */
const APART = new Set(['schema', 'name', 'version', 'purpose']);

/** All settings under their headings, in the order they are written in. */
export function groupsOf(schema: FormSchema): Group[] {
  const groups = new Map<string, Field[]>();
  for (const [name, setting] of Object.entries(schema.properties)) {
    if (APART.has(name)) continue;
    const fields = groups.get(setting.group ?? '') ?? [];
    groups.set(setting.group ?? '', [...fields, ...fieldsOf([name], setting, schema)]);
  }
  return [...groups].map(([title, fields]) => ({ title, fields }));
}

function fieldsOf(path: readonly string[], setting: SettingSchema, schema: FormSchema): Field[] {
  const about = {
    path,
    title: setting.title ?? path.join(' '),
    help: setting.description ?? '',
    unit: setting.unit ?? '',
  };
  const inner = setting.$ref && schema.$defs[setting.$ref.split('/').at(-1) ?? ''];
  if (inner) return Object.entries(inner.properties).flatMap(([name, one]) => fieldsOf([...path, name], one, schema));
  if (setting.type === 'boolean') return [{ ...about, kind: 'yes or no' }];
  if (setting.enum) return [{ ...about, kind: 'choice', options: setting.enum }];
  const number = [setting, ...(setting.anyOf ?? [])].find(({ type }) => type === 'number' || type === 'integer');
  if (!number) return [];
  return [
    {
      ...about,
      kind: 'number',
      min: number.minimum ?? 0,
      max: number.maximum ?? 100,
      optional: setting.anyOf?.some(({ type }) => type === 'null') ?? false,
      slides: path.length > 1,
      rest: typeof setting.default === 'number' ? setting.default : 0,
    },
  ];
}

type Values = { readonly [name: string]: unknown };

/** A setting, wherever it lies. */
export function valueAt(values: Values, [name = '', ...rest]: readonly string[]): unknown {
  const value = values[name];
  return rest.length ? valueAt((value ?? {}) as Values, rest) : value;
}

/** The same settings but for one. */
export function withValue<T extends object>(values: T, [name = '', ...rest]: readonly string[], value: unknown): T {
  const inner = (values as Values)[name];
  return { ...values, [name]: rest.length ? withValue((inner ?? {}) as object, rest, value) : value };
}
