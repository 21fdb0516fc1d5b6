import { useQuery } from '@tanstack/react-query';
import { languagesQuery } from '@/api/people';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { languageWords } from '@/words/languages';

export type LanguageFieldsProps = {
  /** As eng+deu. */
  value: string;
  /** Whether that is its own; somebody else's words where it is not. */
  own: boolean;
  /** Whose words they are then, as in "as the treatment says". */
  otherwise: string;
  /** An empty one leaves it to them. */
  onChange: (language: string) => void;
};

/** In which languages text is read: the main one first, others on the same pages behind it. */
export function LanguageFields({ value, own, otherwise, onChange }: LanguageFieldsProps) {
  const { data: known = [] } = useQuery(languagesQuery);
  const read = value.split('+');
  // In one order whatever is ticked, so that nothing jumps under the hand.
  const offered = [...known.map(({ code }) => code), ...read.filter((one) => !known.some(({ code }) => code === one))];
  const change = (language: string, on: boolean) => {
    const next = on ? [...read, language] : read.filter((one) => one !== language);
    if (next.length) onChange(next.join('+'));
  };
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="mb-1.5 text-small text-soft">The first ticked comes first</legend>
      <div className="flex max-h-64 flex-col gap-1.5 overflow-y-auto py-0.5">
        {offered.map((language) => (
          <Check
            key={language}
            label={languageWords(language, known)}
            value={read.includes(language)}
            disabled={read.length === 1 && read[0] === language}
            onChange={(on) => change(language, on)}
          />
        ))}
      </div>
      <Button size="small" className="mt-1 self-start" disabled={!own} onClick={() => onChange('')}>
        As the {otherwise} says
      </Button>
      <p className="mt-1 text-small text-soft">
        More languages come with Debian's packages tesseract-ocr-…, or from a folder that the server's TESSDATA_PREFIX
        names.
      </p>
    </fieldset>
  );
}
