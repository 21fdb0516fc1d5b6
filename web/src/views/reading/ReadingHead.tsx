import type { ReactNode } from 'react';
import type { TextFigures } from '@/api/types';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { doubtfulOf, expectedWords } from '@/words/text';
import { WordList } from './WordList';

export type Scope = 'stack' | 'page';
export type Tool = '' | 'area' | 'order';

export type ReadingHeadProps = {
  stackId: number;
  stackName: string;
  change: number;
  figures: TextFigures | undefined;
  /** Which of the doubtful words is in hand; empty where none of them is. */
  place: string;
  scope: Scope;
  /** The number of the page that is looked at. */
  page: number | undefined;
  onScope: (scope: Scope) => void;
  tool: Tool;
  onTool: (tool: Tool) => void;
  onFind: () => void;
  /** Why nothing can be put right; empty where it can. */
  why: string;
  onList: (words: string[]) => void;
  /** What it is read in. */
  children: ReactNode;
};

/** How doubtful the text is, and what can be done with the whole of it. */
export function ReadingHead(props: ReadingHeadProps) {
  const {
    stackId,
    stackName,
    change,
    figures,
    place,
    scope,
    page,
    onScope,
    tool,
    onTool,
    onFind,
    why,
    onList,
    children,
  } = props;
  const swap = (other: Tool) => onTool(tool === other ? '' : other);
  return (
    <header className="flex flex-col gap-2">
      <div className="flex items-baseline gap-4">
        <h2 className="min-w-0 flex-1 truncate text-title font-semibold">{figures ? doubtfulOf(figures) : 'Text'}</h2>
        <span className="shrink-0 font-mono" data-testid="place">
          {place}
        </span>
      </div>
      <p className="min-h-5 text-small text-soft">{figures && expectedWords(figures)}</p>
      {children}
      <div className="flex flex-wrap items-center gap-2">
        <Choice<Scope>
          label="Words of"
          value={scope}
          options={[
            { value: 'stack', label: 'Whole stack' },
            { value: 'page', label: page ? `Page ${page}` : 'This page' },
          ]}
          onChange={onScope}
        />
        <Button size="small" shortcut="/" onClick={onFind}>
          Find
        </Button>
        <WordList stackId={stackId} stackName={stackName} change={change} why={why} onSave={onList} />
        <Button size="small" shortcut="F6" pressed={tool === 'area'} disabled={why !== ''} onClick={() => swap('area')}>
          Not to be read
        </Button>
        <Button
          size="small"
          shortcut="F7"
          pressed={tool === 'order'}
          disabled={why !== ''}
          onClick={() => swap('order')}
        >
          Order
        </Button>
      </div>
    </header>
  );
}
