import type { StageEntry } from '../frame/leaf.ts';
import { briefLeaf } from './brief/leaf.ts';
import { buildLeaf } from './build/leaf.ts';
import { gatherLeaf } from './gather/leaf.ts';
import { mixLeaf } from './mix/leaf.ts';
import { pruneLeaf } from './prune/leaf.ts';
import { shipLeaf } from './ship/leaf.ts';
import { sortLeaf } from './sort/leaf.ts';
import { writeLeaf } from './write/leaf.ts';

/** The stages that can be worked in, in the order of the work; `g` and the number jump. */
export const stages: readonly StageEntry[] = [
  {
    path: 'brief',
    name: 'Brief',
    leafOf: briefLeaf,
    screen: async () => ({ Component: (await import('./brief/BriefStage.tsx')).BriefStage }),
  },
  {
    path: 'gather',
    name: 'Gather',
    leafOf: gatherLeaf,
    screen: async () => ({ Component: (await import('./gather/GatherStage.tsx')).GatherStage }),
  },
  {
    path: 'mix',
    name: 'Mix',
    leafOf: mixLeaf,
    screen: async () => ({ Component: (await import('./mix/MixStage.tsx')).MixStage }),
  },
  {
    path: 'prune',
    name: 'Prune',
    leafOf: pruneLeaf,
    screen: async () => ({ Component: (await import('./prune/PruneStage.tsx')).PruneStage }),
  },
  {
    path: 'sort',
    name: 'Sort',
    leafOf: sortLeaf,
    screen: async () => ({ Component: (await import('./sort/SortStage.tsx')).SortStage }),
  },
  {
    path: 'build',
    name: 'Build',
    leafOf: buildLeaf,
    screen: async () => ({ Component: (await import('./build/BuildStage.tsx')).BuildStage }),
  },
  {
    path: 'write',
    name: 'Write',
    leafOf: writeLeaf,
    screen: async () => ({ Component: (await import('./write/WriteStage.tsx')).WriteStage }),
  },
  {
    path: 'ship',
    name: 'Ship',
    leafOf: shipLeaf,
    screen: async () => ({ Component: (await import('./ship/ShipStage.tsx')).ShipStage }),
  },
];
