import type { ReactNode } from 'react';
import { NoteOn } from '../../frame/notes/NoteOn.tsx';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { Tie } from '../../kit/Tie.tsx';
import type { useHolds } from '../../plan/use-holds.ts';
import { CopyMenu } from './CopyMenu.tsx';
import { Labels } from './Labels.tsx';
import { StatusButton } from './StatusButton.tsx';
import type { BuildActions } from './use-build.ts';

type Props = {
  plan: number;
  what: 'campaign' | 'ad group';
  row: {
    key: string;
    name: string;
    status: 'enabled' | 'paused';
    labels: readonly string[];
    covered: Record<string, unknown> | null;
  };
  hold: ReturnType<typeof useHolds>['hold'];
  actions: BuildActions;
  onLetGo: (field: string) => void;
  /** What it holds, in figures. */
  children: ReactNode;
};

/** The head of the page of a campaign or an ad group: its name, status and labels to change, and a way to copy it. */
export function BuiltHeader({ plan, what, row, hold, actions, onLetGo, children }: Props) {
  const { key, name, status, labels, covered } = row;
  return (
    <header className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-0.5 px-4 py-1.5 text-[13px]">
      <span className="flex items-center gap-1 font-semibold text-[15px]">
        <InlineEdit
          label={`name of the ${what}`}
          tabStop
          wide
          shown={name}
          text={name}
          onKeep={(typed) => hold(key, 'name', typed)}
        />
        {covered?.name !== undefined && <Tie rule={`“${covered.name}”`} onLetGo={() => onLetGo('name')} />}
      </span>
      <StatusButton
        name={name}
        status={status}
        onSet={(next) =>
          next === 'enabled' ? onLetGo('status') : void actions.many([key], 'status', next, `Paused ${name}.`)
        }
      />
      <Labels of={name} labels={labels} onKeep={(typed) => hold(key, 'labels', typed)} />
      <CopyMenu of={key} name={name} actions={actions} />
      <NoteOn plan={plan} subject={{ kind: what === 'campaign' ? 'campaign' : 'group', key, name }} />
      <span className="ml-auto text-faint">{children}</span>
    </header>
  );
}
