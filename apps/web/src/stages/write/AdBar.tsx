import { type AdQuery, adOnly } from '@sprig/contracts';
import type { ReactNode } from 'react';
import { FilterField } from '../../kit/FilterField.tsx';
import { counted } from '../../kit/format.ts';
import { Menu } from '../../kit/Menu.tsx';
import type { BulkStart } from './BulkText.tsx';
import type { WritingState } from './use-writing.ts';

export type AdPanel = BulkStart | 'review' | 'writer' | 'urls' | null;

const onlyWords: Record<AdQuery['only'], string> = {
  all: 'all',
  misfit: 'that do not fit',
  held: 'written by hand',
  problems: 'with objections',
  ready: 'ready',
  review: 'in review',
  limited: 'limited',
  refused: 'refused',
};

type Props = {
  filter: string;
  only: AdQuery['only'];
  /** 0: of all patterns. */
  pattern: number;
  patterns: WritingState['document']['value'];
  /** Null until they are counted. */
  ads: number | null;
  /** The ads that something is done with, in words. */
  what: string;
  isNone: boolean;
  hasChosen: boolean;
  onAddress: (change: Record<string, string>) => void;
  onPanel: (panel: AdPanel) => void;
  /** Makes one ad for the groups that are chosen. */
  onOneAd: () => void;
  onLetGo: () => void;
  /** Which results are shown beside ads. */
  results: ReactNode;
};

/** Which ads are listed, and what is done with many of them. */
export function AdBar(props: Props) {
  const { filter, only, pattern, patterns, ads, what, isNone, hasChosen } = props;
  const { onAddress, onPanel, onOneAd, onLetGo, results } = props;
  return (
    <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 px-4 py-1">
      <FilterField
        label="Filter ads"
        placeholder="Filter texts, groups, labels"
        value={filter}
        onChange={(next) => onAddress({ filter: next })}
      />
      <select
        className="plain-field chip"
        aria-label="Which ads"
        value={only}
        onChange={({ target }) => onAddress({ rows: target.value === 'all' ? '' : target.value })}
      >
        {adOnly.map((one) => (
          <option key={one} value={one}>
            {onlyWords[one]}
          </option>
        ))}
      </select>
      <select
        className="plain-field chip"
        aria-label="Of which pattern"
        value={pattern}
        onChange={({ target }) => onAddress({ of: target.value === '0' ? '' : target.value })}
      >
        <option value={0}>of all patterns</option>
        {patterns?.order.map((id) => (
          <option key={id} value={id}>
            {patterns.patterns[id]?.name}
          </option>
        ))}
      </select>
      <span className="text-faint">{ads === null ? '…' : counted(ads, 'ad')}</span>
      <span className="ml-auto flex items-center gap-1">
        {results}
        <button type="button" className="btn btn-sm" disabled={isNone} onClick={() => onPanel('text')}>
          Texts of {what} <span className="key">b</span>
        </button>
        <button type="button" className="btn btn-sm" disabled={isNone} onClick={() => onPanel('review')}>
          Review <span className="key">r</span>
        </button>
        <Menu
          label={`More for ${what}`}
          className="btn btn-sm"
          width={300}
          items={[
            {
              words: 'Sheet for a writer, and back',
              hint: 'groups with empty columns',
              run: () => onPanel('writer'),
            },
            {
              words: 'One ad for these groups',
              hint: 'a pattern of their own',
              disabled: !hasChosen,
              run: onOneAd,
            },
            { words: 'Headlines in Title Case', run: () => onPanel('title') },
            { words: 'Find and replace in final URLs', run: () => onPanel('urls') },
            {
              words: 'Mend what editors object to',
              hint: 'where that is certain',
              run: () => onPanel('mend'),
            },
            { words: 'Let what is written by hand go', run: onLetGo },
          ]}
        >
          More
        </Menu>
      </span>
    </div>
  );
}
