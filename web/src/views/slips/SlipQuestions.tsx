import { type FormEvent, useState } from 'react';
import type { OrderSlip } from '@/api/types';
import { type Answers, NOTHING, unsaid } from '@/engine/capture/slip';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { ORIGINAL_WORDS } from '@/words/original';
import { ORIGINAL_FIELDS, OriginalFields } from './OriginalFields';

export type SlipQuestionsProps = {
  slip: OrderSlip;
  /** What is done once all is said. */
  action: string;
  onSaid: (answers: Answers) => void;
  onLeave: () => void;
};

/** What a slip asks for before the first sheet, once. */
export function SlipQuestions({ slip, action, onSaid, onLeave }: SlipQuestionsProps) {
  const [answers, setAnswers] = useState<Answers>({ title: '', original: { ...NOTHING, ...slip.original } });
  const missing = unsaid(slip.asks, answers);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (missing.length === 0) onSaid(answers);
  };
  return (
    <Sheet open onOpenChange={onLeave} title={`${slip.name}: before the first sheet`}>
      <form onSubmit={submit} className="flex flex-col gap-4">
        {slip.asks.includes('title') && (
          <Field
            label={ORIGINAL_WORDS.title}
            maxLength={200}
            value={answers.title}
            onChange={({ target }) => setAnswers({ ...answers, title: target.value })}
            autoFocus
          />
        )}
        <OriginalFields
          original={answers.original}
          onChange={(original) => setAnswers({ ...answers, original })}
          only={ORIGINAL_FIELDS.filter((field) => slip.asks.includes(field))}
        />
        <div className="flex items-center justify-end gap-3">
          <Button
            kind="main"
            type="submit"
            why={
              missing.length
                ? `Still to say: ${missing.map((one) => ORIGINAL_WORDS[one].toLowerCase()).join(', ')}.`
                : ''
            }
          >
            {action}
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
