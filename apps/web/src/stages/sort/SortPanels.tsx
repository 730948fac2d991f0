import * as api from '@sprig/contracts';
import { useState } from 'react';
import { counted } from '../../kit/format.ts';
import type { Scope } from '../../pool/sorting.ts';
import { useWorked } from '../../pool/use-pool.ts';
import { Contests } from './Contests.tsx';
import { MoveTo } from './MoveTo.tsx';
import { PasteNames } from './PasteNames.tsx';
import { SignalWords } from './SignalWords.tsx';
import { shareOf } from './sort-words.ts';
import { movedWords } from './state/use-chosen.ts';
import type { Place } from './state/use-place.ts';
import type { Sorted } from './state/use-sorted.ts';
import type { useSide } from './use-side.ts';
import { WholePlan } from './WholePlan.tsx';

/** What is open over the stage; keywords that are moved come with it. */
export type Panel = 'whole' | 'names' | 'contests' | 'signals' | { move: number[] };

type Props = {
  panel: Panel;
  sorted: Sorted;
  place: Place;
  side: ReturnType<typeof useSide>;
  /** Keywords were moved. */
  onMoved: () => void;
  onClose: () => void;
};

export function SortPanels(props: Props) {
  const { panel, sorted, place, onMoved, onClose } = props;
  const { actions, pool, stamp, tree, sort } = sorted;
  const { open } = place;
  if (typeof panel === 'object')
    return (
      <MovePanel keywords={panel.move} sorted={sorted} place={place} onMoved={onMoved} onClose={onClose} />
    );
  switch (panel) {
    case 'whole':
      return <WholePlanPanel {...props} />;
    case 'contests':
      return (
        <Contests
          worker={pool.worker}
          stamp={stamp}
          tree={tree}
          onBefore={(theme, wonBy) => void actions.move([theme], tree.byId.get(theme)?.parent ?? null, wonBy)}
          onClose={onClose}
        />
      );
    case 'signals':
      return (
        sort && (
          <SignalWords
            signals={sort.settings.signals}
            onKeep={(signals) => {
              onClose();
              void actions.setting(sort.settings, 'signals', signals);
            }}
            onClose={onClose}
          />
        )
      );
    case 'names':
      return (
        <PasteNames
          where={open?.name ?? 'the pool'}
          onMake={(list) => {
            onClose();
            void actions.make(open?.id ?? null, list, false, () => `Made ${counted(list.length, 'theme')}.`);
          }}
          onClose={onClose}
        />
      );
  }
}

/** The whole plan that is proposed, for the unplaced or in the place of all there is. */
function WholePlanPanel({ sorted, place, side, onClose }: Props) {
  const { actions, facts, pool, stamp, summary, tree } = sorted;
  const { open, restScope } = place;
  const [instead, setInstead] = useState(false);
  const isLarge = pool.length >= api.SERVER_PROPOSES_FROM;
  const all: Scope = open ? { kind: 'theme', theme: open.id, own: false } : { kind: 'all' };
  const scope = instead ? all : restScope;
  const { data: proposal, busy } = useWorked(
    async () => (summary && !isLarge ? (await side.ready()).wholePlan(scope) : null),
    `whole ${stamp} ${JSON.stringify(scope)} ${summary ? 1 : 0}`,
    side.turns,
  );
  if (!summary) return null;
  const placed = shareOf(summary.all.searches - summary.unplaced.searches, summary.all.searches);
  const proposeOnServer = () => {
    onClose();
    void actions.proposeOnServer(open?.id ?? null, instead);
  };
  const take = async (branches: number[], themes: number) => {
    onClose();
    const list = await (await side.ready()).branchThemes(scope, branches);
    await actions.make(open?.id ?? null, list, instead, () => `Made ${counted(themes, 'theme')}.`);
  };
  return (
    <WholePlan
      proposal={proposal}
      busy={busy}
      where={open?.name ?? 'the pool'}
      there={(open?.children ?? tree.roots).length}
      now={`Now ${placed} of all searches are placed.`}
      hasPlaces={facts.places.length > 0}
      instead={instead}
      onInstead={setInstead}
      onServer={isLarge ? proposeOnServer : null}
      onTake={(branches, themes) => void take(branches, themes)}
      onClose={onClose}
    />
  );
}

function MovePanel({
  keywords,
  sorted: { actions, tree },
  place: { open },
  onMoved,
  onClose,
}: Pick<Props, 'sorted' | 'place' | 'onMoved' | 'onClose'> & { keywords: number[] }) {
  const count = keywords.length;
  const done = () => {
    onClose();
    onMoved();
  };
  const makeAndMove = async (name: string) => {
    done();
    const made = await actions.make(open?.id ?? null, [api.newThemeOf(name, null)]);
    const id = made?.ids[0];
    if (id) await actions.place(keywords, id, movedWords(count, name));
  };
  return (
    <MoveTo
      tree={tree}
      count={count}
      onMove={(theme, name) => {
        done();
        const words =
          theme === null
            ? `Let go of ${counted(count, 'keyword')}.`
            : movedWords(count, theme === 0 ? null : name);
        void actions.place(keywords, theme, words);
      }}
      onMake={(name) => void makeAndMove(name)}
      onClose={onClose}
    />
  );
}
