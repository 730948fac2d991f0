import { Empty } from '../kit/Empty.tsx';
import type { StageEntry } from './leaf.ts';

/** In the place of a stage whose screen could not be loaded. */
function NotLoaded() {
  return (
    <div className="grid h-full place-items-center p-8">
      <Empty title="This stage could not be loaded">
        <p className="mb-3">
          The server does not answer, or was started with another version. All that you kept is there.
        </p>
        <button type="button" className="btn btn-primary btn-sm" onClick={() => window.location.reload()}>
          Load it again
        </button>
      </Empty>
    </div>
  );
}

/** Loads a stage's screen; where that fails, the frame stays and says what to do. */
export const orNotLoaded =
  (screen: StageEntry['screen']): StageEntry['screen'] =>
  () =>
    screen().catch(() => ({ Component: NotLoaded }));
