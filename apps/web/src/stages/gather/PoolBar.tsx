import { Shapes } from 'lucide-react';
import { usePreferences } from '../../data/me.ts';
import { counted } from '../../kit/format.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import type { PoolQuery, PoolRow } from '../../pool/pool-store.ts';
import type { Kept } from './pool-columns.tsx';

/** What is done with keywords of the pool, by their ids. */
export type PoolActions = {
  onCut: (ids: number[], cut: boolean) => void;
  onPutBack: (ids: number[]) => void;
  /** Asks the stand-in market for figures; null: for all without any. Null in plans that ask none. */
  onAsk: ((ids: number[] | null) => void) | null;
  /** Takes the estimated CPCs of these keywords as they are. */
  onTake: (ids: number[]) => void;
  onRewrite: (ids: number[]) => void;
  onTypes: (ids: number[]) => void;
  onVariants: (ids: number[]) => void;
};

type ChosenProps = PoolActions & {
  chosen: number;
  state: PoolQuery['state'];
  ids: () => number[];
};

/** What can be done with the keywords that are selected. */
export function ChosenKeywords(props: ChosenProps) {
  const { chosen, state, ids, onCut, onPutBack, onAsk, onTake, onRewrite, onTypes, onVariants } = props;
  return (
    <div className="ml-auto flex items-center gap-2">
      <span>{counted(chosen, 'keyword')} selected</span>
      {(state === 'in' || state === 'all') && (
        <button type="button" className="btn btn-sm" onClick={() => onCut(ids(), true)}>
          Cut {counted(chosen, 'keyword')} <span className="key">c</span>
        </button>
      )}
      {state !== 'in' && state !== 'blocked' && (
        <button type="button" className="btn btn-sm" onClick={() => onPutBack(ids())}>
          {state === 'folded' ? 'Unfold' : 'Put back'} {counted(chosen, 'keyword')}{' '}
          <span className="key">b</span>
        </button>
      )}
      <button type="button" className="btn btn-sm" onClick={() => onRewrite(ids())}>
        Change text <span className="key">r</span>
      </button>
      <button type="button" className="btn btn-sm" onClick={() => onTypes(ids())}>
        Match types <span className="key">m</span>
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-square btn-sm"
        title="Match variants of the selection (v)"
        aria-label="Match variants of the selection"
        onClick={() => onVariants(ids())}
      >
        <Shapes size={15} />
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-sm"
        title="Keep their estimated CPCs as they are now: bids without a told CPC follow them from then on"
        onClick={() => onTake(ids())}
      >
        Take estimated CPCs
      </button>
      {onAsk && (
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          title="Ask the stand-in market, which makes figures up"
          onClick={() => onAsk(ids())}
        >
          Make up
        </button>
      )}
    </div>
  );
}

type ColumnsProps = {
  columns: readonly TableColumn<PoolRow>[];
  /** Columns that sheets were said to keep. */
  kept: readonly Kept[];
  keptColumns: readonly string[];
  onKeptColumns: (headings: readonly string[]) => void;
};

/** Which columns are shown. */
export function ColumnsMenu({ columns, kept, keptColumns, onKeptColumns }: ColumnsProps) {
  const { preferences, setAloud } = usePreferences();
  const hidden = preferences.hiddenColumns.pool ?? [];
  return (
    <details name="pool-menu" className="dropdown dropdown-end">
      <summary className="btn btn-ghost btn-sm font-normal text-faint">Columns</summary>
      <div className="dropdown-content z-30 max-h-96 w-60 overflow-auto rounded-md border border-hair bg-base-100 p-2">
        {columns
          .filter(({ id }) => !id.startsWith('kept:'))
          .map(({ id, heading }) => (
            <label key={id} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={!hidden.includes(id)}
                onChange={() =>
                  setAloud({
                    hiddenColumns: {
                      ...preferences.hiddenColumns,
                      pool: hidden.includes(id) ? hidden.filter((one) => one !== id) : [...hidden, id],
                    },
                  })
                }
              />
              {heading}
            </label>
          ))}
        {kept.length > 0 && (
          <p className="mt-2 border-hair border-t pt-1 text-[12px] text-faint">Kept from sheets</p>
        )}
        {kept.map(({ heading, keywords }) => (
          <label
            key={heading}
            className="flex items-center gap-2 py-0.5"
            title={`Of ${counted(keywords, 'keyword')}`}
          >
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={keptColumns.includes(heading)}
              onChange={() =>
                onKeptColumns(
                  keptColumns.includes(heading)
                    ? keptColumns.filter((one) => one !== heading)
                    : [...keptColumns, heading],
                )
              }
            />
            <span className="truncate">{heading}</span>
          </label>
        ))}
      </div>
    </details>
  );
}
