import type { FunnelStage } from '@sprig/core/text';
import { counted } from '../../kit/format.ts';
import { stageKeys } from './SortedTable.tsx';

type Props = {
  name: string;
  shown: number;
  selected: number;
  /** The selected keywords among those that are shown. */
  chosen: () => number[];
  onMove: (keywords: number[]) => void;
  onLetGo: (keywords: number[]) => void;
  onStage: (keywords: number[], stage: FunnelStage) => void;
};

/** What the table under it shows, and what can be done with the selection. */
export function KeywordsBar({ name, shown, selected, chosen, onMove, onLetGo, onStage }: Props) {
  return (
    <div className="flex h-9 shrink-0 items-center gap-2 px-4 text-[12.5px]">
      <b>{name}</b>
      <span className="text-faint">{counted(shown, 'keyword')}</span>
      {selected > 0 && (
        <span className="ml-auto flex items-center gap-1.5">
          <span className="text-faint">{counted(chosen().length, 'keyword')} selected</span>
          <button type="button" className="btn btn-xs" onClick={() => onMove(chosen())}>
            Move <span className="key">m</span>
          </button>
          <button type="button" className="btn btn-xs" onClick={() => onLetGo(chosen())}>
            Let go <span className="key">l</span>
          </button>
          {Object.entries(stageKeys).map(([key, stage]) => (
            <button key={key} type="button" className="btn btn-xs" onClick={() => onStage(chosen(), stage)}>
              {stage} <span className="key">{key}</span>
            </button>
          ))}
        </span>
      )}
    </div>
  );
}
