import { NotLoaded } from '../kit/lazy-part.tsx';
import type { StageEntry } from './leaf.ts';

const StageNotLoaded = () => <NotLoaded name="This stage" />;

/** Loads a stage's screen; where that fails, the frame stays and says what to do. */
export const orNotLoaded =
  (screen: StageEntry['screen']): StageEntry['screen'] =>
  () =>
    screen().catch(() => ({ Component: StageNotLoaded }));
