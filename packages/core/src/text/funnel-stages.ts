/** Stages as keys of campaigns hold them; 0 stands for none. A code is never given to another stage. */
const codes = { early: 1, comparing: 2, ready: 3 } as const;

/** How close to buying a searcher is. */
export type FunnelStage = keyof typeof codes;

/** From early on. */
export const funnelStages = ['early', 'comparing', 'ready'] as const satisfies readonly FunnelStage[];

export const codeOfStage = (stage: FunnelStage | null): number => (stage === null ? 0 : codes[stage]);
