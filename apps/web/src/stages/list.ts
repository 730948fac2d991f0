import type { StageEntry } from '../frame/leaf.ts';
import { asTold } from '../kit/commands.ts';
import { briefCommands } from './brief/commands.ts';
import { briefLeaf } from './brief/leaf.ts';
import { buildKeys } from './build/commands.ts';
import { buildLeaf } from './build/leaf.ts';
import { gatherKeys } from './gather/commands.ts';
import { gatherLeaf } from './gather/leaf.ts';
import { learnKeys } from './learn/commands.ts';
import { learnLeaf } from './learn/leaf.ts';
import { mixKeys } from './mix/commands.ts';
import { mixLeaf } from './mix/leaf.ts';
import { pruneKeys } from './prune/commands.ts';
import { pruneLeaf } from './prune/leaf.ts';
import { shipKeys } from './ship/commands.ts';
import { shipLeaf } from './ship/leaf.ts';
import { sortKeys } from './sort/commands.ts';
import { sortLeaf } from './sort/leaf.ts';
import { writeKeys } from './write/commands.ts';
import { writeLeaf } from './write/leaf.ts';

/** The stages that can be worked in, in the order of the work; `g` and the number jump. */
export const stages: readonly StageEntry[] = [
  {
    path: 'brief',
    name: 'Brief',
    leafOf: briefLeaf,
    keys: asTold(briefCommands),
    screen: async () => ({ Component: (await import('./brief/BriefStage.tsx')).BriefStage }),
  },
  {
    path: 'gather',
    name: 'Gather',
    leafOf: gatherLeaf,
    keys: gatherKeys,
    screen: async () => ({ Component: (await import('./gather/GatherStage.tsx')).GatherStage }),
  },
  {
    path: 'mix',
    name: 'Mix',
    leafOf: mixLeaf,
    keys: mixKeys,
    screen: async () => ({ Component: (await import('./mix/MixStage.tsx')).MixStage }),
  },
  {
    path: 'prune',
    name: 'Prune',
    leafOf: pruneLeaf,
    keys: pruneKeys,
    screen: async () => ({ Component: (await import('./prune/PruneStage.tsx')).PruneStage }),
  },
  {
    path: 'sort',
    name: 'Sort',
    leafOf: sortLeaf,
    keys: sortKeys,
    screen: async () => ({ Component: (await import('./sort/SortStage.tsx')).SortStage }),
  },
  {
    path: 'build',
    name: 'Build',
    leafOf: buildLeaf,
    keys: buildKeys,
    screen: async () => ({ Component: (await import('./build/BuildStage.tsx')).BuildStage }),
  },
  {
    path: 'write',
    name: 'Write',
    leafOf: writeLeaf,
    keys: writeKeys,
    screen: async () => ({ Component: (await import('./write/WriteStage.tsx')).WriteStage }),
  },
  {
    path: 'ship',
    name: 'Ship',
    leafOf: shipLeaf,
    keys: shipKeys,
    screen: async () => ({ Component: (await import('./ship/ShipStage.tsx')).ShipStage }),
  },
  {
    path: 'learn',
    name: 'Learn',
    leafOf: learnLeaf,
    keys: learnKeys,
    screen: async () => ({ Component: (await import('./learn/LearnStage.tsx')).LearnStage }),
  },
];
