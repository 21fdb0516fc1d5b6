import type { ReactNode } from 'react';
import type { AccessSettings, Binding, PageMark, PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Field } from '@/ui/Field';
import { KeptField } from '@/ui/KeptField';
import { Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { FINENESS, MARKS, PLACES } from '@/words/binding';
import { fieldOf, placeOf } from './MarkOnPage';

export type Kind = PageMark['kind'];
export const TOOLS: readonly { kind: Kind; key: string }[] = [
  { kind: 'cover', key: 'x' },
  { kind: 'highlight', key: 'h' },
  { kind: 'frame', key: 'f' },
  { kind: 'note', key: 't' },
];

export type AccessProps = {
  binding: Binding;
  page: PageRow;
  tool: Kind | undefined;
  may: boolean;
  documents: number;
  passwords: Passwords;
  pending: boolean;
  /** Why no copy can be made now. */
  why: string;
  onTool: (tool: Kind | undefined) => void;
  onPut: (mark: PageMark) => void;
  onGone: (id: string) => void;
  onOut: (out: boolean) => void;
  onSay: (access: AccessSettings) => void;
  onPasswords: (passwords: Passwords) => void;
  onMake: (all: boolean) => void;
};

export type Passwords = { opening: string; changing: string };

/** Copies to be looked at: what is covered and noted on the page in hand, and how all of them are made. */
export function Access(props: AccessProps) {
  const { binding, page, tool, may, documents, passwords, pending, why, onTool, onSay, onPasswords, onMake } = props;
  const { access } = binding;
  const marks = binding.marks[page.id] ?? [];
  const out = binding.left_out.includes(page.id);
  return (
    <div className="flex flex-col gap-5 px-4 py-4">
      <Part title={`On page ${page.number}`}>
        <div className="grid grid-cols-2 gap-2">
          {TOOLS.map(({ kind, key }) => (
            <Button
              key={kind}
              shortcut={key.toUpperCase()}
              spread="between"
              pressed={tool === kind}
              disabled={!may || out}
              onClick={() => onTool(tool === kind ? undefined : kind)}
            >
              {MARKS[kind]}
            </Button>
          ))}
        </div>
        <output className="min-h-10 text-small text-soft">{toolWords(tool)}</output>
        {marks.length > 0 && (
          <ul aria-label={`Marks on page ${page.number}`} className="flex flex-col">
            {marks.map((mark, index) => (
              <li key={mark.id} className="flex items-end gap-2 border-t border-hairline py-2">
                {mark.kind === 'cover' ? (
                  <span className="flex-1 self-center">Cover {index + 1}</span>
                ) : (
                  <KeptField
                    className="min-w-0 flex-1"
                    label={`${MARKS[mark.kind]} ${index + 1}, in words`}
                    id={fieldOf(mark)}
                    value={mark.text}
                    disabled={!may}
                    onKeep={(text) => props.onPut({ ...mark, text: text.trim() })}
                    onEnter={() => document.getElementById(placeOf(mark))?.focus()}
                  />
                )}
                <Button
                  kind="quiet"
                  size="small"
                  disabled={!may}
                  aria-label={`Take away ${MARKS[mark.kind].toLowerCase()} ${index + 1}`}
                  onClick={() => props.onGone(mark.id)}
                >
                  Take away
                </Button>
              </li>
            ))}
          </ul>
        )}
        <Check label="Leave this page out" value={out} disabled={!may} onChange={props.onOut} />
      </Part>
      <Part title="All access copies">
        <Select
          label="Pictures"
          value={access.ppi === null ? 'bound' : String(access.ppi)}
          disabled={!may}
          options={
            FINENESS.some(({ value }) => value === String(access.ppi)) || access.ppi === null
              ? FINENESS
              : [...FINENESS, { value: String(access.ppi), label: `${access.ppi} ppi` }]
          }
          onChange={(value) => onSay({ ...access, ppi: value === 'bound' ? null : Number(value) })}
        />
        <p className="text-small text-soft">Writing stays crisp where that takes less room.</p>
        <KeptField
          label="Watermark"
          value={access.watermark.text}
          maxLength={120}
          disabled={!may}
          onKeep={(text) => onSay({ ...access, watermark: { ...access.watermark, text: text.trim() } })}
        />
        {access.watermark.text && (
          <>
            <Select
              label="Where it stands"
              value={access.watermark.place}
              disabled={!may}
              options={PLACES}
              onChange={(place) => onSay({ ...access, watermark: { ...access.watermark, place } })}
            />
            {may && (
              <Slider
                label="Strength"
                value={Math.round(access.watermark.strength * 100)}
                min={5}
                max={80}
                step={5}
                rest={20}
                shown={`${Math.round(access.watermark.strength * 100)} %`}
                onChange={(value) => onSay({ ...access, watermark: { ...access.watermark, strength: value / 100 } })}
              />
            )}
          </>
        )}
        <Check
          label="May be printed"
          value={access.printing}
          disabled={!may}
          onChange={(printing) => onSay({ ...access, printing })}
        />
        <Check
          label="Text may be copied"
          value={access.copying}
          disabled={!may}
          onChange={(copying) => onSay({ ...access, copying })}
        />
      </Part>
      {may && (
        <Part title="Make">
          <Field
            label="Password to open"
            type="password"
            autoComplete="off"
            maxLength={127}
            value={passwords.opening}
            onChange={({ target }) => onPasswords({ ...passwords, opening: target.value })}
          />
          <Field
            label="Password to lift what is forbidden"
            type="password"
            autoComplete="off"
            maxLength={127}
            help="Kept sealed until the copy is made, and never shown again."
            value={passwords.changing}
            onChange={({ target }) => onPasswords({ ...passwords, changing: target.value })}
          />
          <Button shortcut="⇧A" spread="between" disabled={pending} why={why} onClick={() => onMake(false)}>
            Make an access copy
          </Button>
          {documents > 1 && !why && (
            <Button disabled={pending} onClick={() => onMake(true)}>
              Of all {documents} documents
            </Button>
          )}
        </Part>
      )}
    </div>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="flex flex-col gap-3">
      <h3 className="font-semibold">{title}</h3>
      {children}
    </section>
  );
}

function toolWords(tool: Kind | undefined): string {
  switch (tool) {
    case undefined:
      return 'What is covered is gone from the copy: picture, text and title. The page itself stays as it is.';
    case 'cover':
      return 'Drag over what is to be gone, or press Enter to place a cover in the middle.';
    case 'note':
      return 'Drag where the note is to lie, or press Enter; then say below what it says.';
    default:
      return 'Drag over the place, or press Enter to begin in the middle.';
  }
}
