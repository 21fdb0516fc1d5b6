import { Toolbar } from 'radix-ui';
import type { Compare, Tool } from '@/engine/bench/toolNames';
import { keyWords } from '@/engine/keys/registry';
import { SEGMENT, SEGMENTS } from '@/ui/Choice';
import { keepKeys } from '@/ui/keepKeys';
import { Tip } from '@/ui/Tip';
import { Toggle } from '@/ui/Toggle';

export type ToolRowProps = {
  compare: Compare;
  onCompare: (compare: Compare) => void;
  tool: Tool;
  onTool: (tool: Tool) => void;
  regions: boolean;
  onRegions: (on: boolean) => void;
  loupe: boolean;
  onLoupe: (on: boolean) => void;
};

const WAYS: { value: Compare; label: string }[] = [
  { value: 'beside', label: 'Beside' },
  { value: 'curtain', label: 'Curtain' },
  { value: 'single', label: 'Single' },
  { value: 'difference', label: 'Difference' },
];
const TOOLS: { value: Tool; label: string; key?: string }[] = [
  { value: 'move', label: 'Move' },
  { value: 'level', label: 'Level', key: 't' },
  { value: 'corners', label: 'Corners', key: 'q' },
  { value: 'borders', label: 'Borders', key: 'd' },
  { value: 'split', label: 'Split', key: 's' },
];

/** What the pointer does, and how the two images are compared. */
export function ToolRow(props: ToolRowProps) {
  return (
    <Toolbar.Root
      aria-label="Tools"
      className="flex shrink-0 flex-wrap items-center gap-2 border-b border-hairline bg-panel px-4 py-2 text-ink"
    >
      <Group label="Compare" value={props.compare} options={WAYS} onChange={props.onCompare} />
      <Group label="Tool" value={props.tool} options={TOOLS} onChange={props.onTool} />
      <Toolbar.Button asChild>
        <Toggle on={props.regions} onChange={props.onRegions} shortcut="Shift+o" plain>
          Regions
        </Toggle>
      </Toolbar.Button>
      <Toolbar.Button asChild>
        <Toggle on={props.loupe} onChange={props.onLoupe} shortcut="m" plain>
          Loupe
        </Toggle>
      </Toolbar.Button>
    </Toolbar.Root>
  );
}

type GroupProps<T extends string> = {
  label: string;
  value: T;
  options: { value: T; label: string; key?: string }[];
  onChange: (value: T) => void;
};

function Group<T extends string>({ label, value, options, onChange }: GroupProps<T>) {
  return (
    <Toolbar.ToggleGroup
      type="single"
      value={value}
      onValueChange={(chosen) => chosen && onChange(chosen as T)}
      aria-label={label}
      className={SEGMENTS}
    >
      {options.map((option) => (
        <Tip key={option.value} text={option.key && `Key ${keyWords({ key: option.key })}`}>
          <Toolbar.ToggleItem
            value={option.value}
            onMouseDown={keepKeys}
            className={SEGMENT}
            {...(option.key ? { 'aria-keyshortcuts': option.key } : {})}
          >
            {option.label}
          </Toolbar.ToggleItem>
        </Tip>
      ))}
    </Toolbar.ToggleGroup>
  );
}
