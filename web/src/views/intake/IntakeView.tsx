import { useState } from 'react';
import { useLocation } from 'wouter';
import { api, told } from '@/api/client';
import { NewStack } from '@/engine/capture/newStack';
import { suggestedName } from '@/engine/uploads/files';
import { useCommands } from '@/hooks/useCommands';
import { useView } from '@/hooks/useView';
import { Rename } from '@/ui/Rename';
import { TopBar } from '@/ui/TopBar';
import { namedByDay } from '@/words/names';
import { Intake } from './Intake';

/** Intake before there is a stack: the first thing that is captured or dropped begins it, under the name that stands on top. */
export function IntakeView({ user }: { user: string }) {
  const [, go] = useLocation();
  const main = useView<HTMLDivElement>('New stack');
  const [name, setName] = useState<string>();
  const today = namedByDay(new Date());
  const [stack] = useState(
    () => new NewStack((name) => told(api.POST('/api/v1/stacks', { body: { name: name.slice(0, 200) } }))),
  );
  const ensure = async (names: readonly string[]) => {
    const { id } = await stack.ensure(name ?? (suggestedName(names) || today));
    // Whoever asked for it goes on first; then it is looked at.
    setTimeout(() => go(`/stacks/${id}/intake`, { replace: true }));
    return id;
  };
  useCommands([{ name: 'shelf', label: 'Back to the shelf', key: 'Escape', subject: 'Go to', perform: () => go('/') }]);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar user={user} title={<Rename name={name ?? today} may onRename={setName} />} />
      <div ref={main} id="main" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none">
        <Intake
          stack={undefined}
          stackId={undefined}
          ensure={ensure}
          pages={[]}
          page={undefined}
          onChange={() => undefined}
          onPage={() => undefined}
        />
      </div>
    </div>
  );
}
