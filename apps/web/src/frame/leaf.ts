import type { PlanState } from '@sprig/contracts';
import type { ComponentType } from 'react';
import type { ToldKeys } from '../kit/commands.ts';

export type LeafState = 'untouched' | 'unfinished' | 'done' | 'blocked';
/** How a stage of a plan stands, in a few words. */
export type LeafOf = (plan: PlanState) => { tally: string; state: LeafState };

/** A stage as the frame knows it: its place in the address, its name, its leaf on the trail, and its screen, loaded when it is opened. */
export type StageEntry = {
  path: string;
  name: string;
  leafOf: LeafOf;
  /** What keys do there, beside those that work everywhere. */
  keys: ToldKeys;
  screen: () => Promise<{ Component: ComponentType }>;
};
export type Leaf = { path: string; name: string; tally: string; state: LeafState };

export const leavesOf = (stages: readonly StageEntry[], plan: PlanState): Leaf[] =>
  stages.map(({ path, name, leafOf }) => ({ path, name, ...leafOf(plan) }));

/** A stage that has nothing to do its work on is untouched; one that has something left to do is unfinished, or blocked. */
export function stateOf(isEmpty: boolean, hasLeft: boolean, left: LeafState = 'unfinished'): LeafState {
  if (isEmpty) return 'untouched';
  return hasLeft ? left : 'done';
}
