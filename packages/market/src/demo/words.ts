/** The made-up trade of Saltmarsh Paddle Co.: how often a word is searched, against how dear a click on it is. */
export type Weighted = readonly [word: string, searches: number, price: number];

export const goods: readonly Weighted[] = [
  ['kayak', 1, 1],
  ['kayaks', 0.7, 1],
  ['canoe', 0.6, 0.9],
  ['canoes', 0.35, 0.9],
  ['paddle board', 0.9, 1.1],
  ['paddleboard', 0.5, 1.1],
  ['sup', 0.45, 0.8],
  ['paddle', 0.3, 0.6],
  ['dry bag', 0.25, 0.5],
  ['buoyancy aid', 0.2, 0.6],
  ['roof rack', 0.2, 0.9],
];
export const traits: readonly Weighted[] = [
  ['inflatable', 0.6, 1.1],
  ['folding', 0.15, 1.2],
  ['touring', 0.2, 1.1],
  ['sit on top', 0.3, 1],
  ['two person', 0.3, 1.1],
  ['fishing', 0.35, 1],
  ['kids', 0.25, 0.8],
  ['beginner', 0.15, 0.8],
  ['carbon', 0.1, 1.5],
  ['lightweight', 0.15, 1.1],
  ['second hand', 0.2, 0.5],
  ['sea', 0.3, 1.1],
  ['river', 0.15, 0.9],
];
export const wants: readonly Weighted[] = [
  ['hire', 0.4, 1.3],
  ['rental', 0.3, 1.3],
  ['for sale', 0.4, 1.4],
  ['price', 0.2, 1.2],
  ['review', 0.2, 0.6],
  ['lessons', 0.2, 1.1],
  ['guided tour', 0.15, 1.3],
  ['near me', 0.35, 1.5],
];
export const openings: readonly Weighted[] = [
  ['buy', 0.3, 1.6],
  ['cheap', 0.3, 1.1],
  ['best', 0.4, 0.8],
  ['how to store a', 0.1, 0.2],
  ['what size', 0.15, 0.3],
];
export const places: readonly Weighted[] = [
  ['wrenport', 0.12, 1.1],
  ['tallowby bay', 0.1, 1.2],
  ['marrowquay', 0.08, 1],
  ['pellanby', 0.05, 0.9],
  ['heronsea', 0.06, 1],
  ['ottermere weir', 0.05, 1.1],
];
export const noise: readonly Weighted[] = [
  ['plans to build a canoe', 0.03, 0.2],
  ['free canoe plans', 0.04, 0.1],
  ['sup meaning', 0.08, 0.1],
  ['otterline touring kayak', 0.04, 1.3],
  ['otterline kayak', 0.06, 1.2],
  ['brackwater sup', 0.03, 1.2],
  ['brackwater paddle', 0.03, 1.1],
  ['fathom & reed', 0.05, 1.2],
  ['fathom & reed kayak', 0.04, 1.2],
  ['fathom & reed paddle board', 0.02, 1.2],
];
/** Words that make another search of a good. */
export const noiseAround: readonly Weighted[] = [
  ['jobs', 0.05, 0.3],
  ['games online', 0.06, 0.1],
  ['film', 0.05, 0.1],
  ['song lyrics', 0.03, 0.1],
  ['plans', 0.04, 0.1],
  ['drawing', 0.03, 0.1],
];
/** How people slip. */
export const slips: readonly Weighted[] = [
  ['kyak', 0.02, 1],
  ['kayack', 0.022, 1],
  ['kayk', 0.012, 1],
  ['cannoe', 0.012, 0.9],
  ['padle board', 0.03, 1],
  ['inflateable kayak', 0.01, 1.1],
];
