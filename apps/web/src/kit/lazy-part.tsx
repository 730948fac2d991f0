import { type ComponentType, lazy, type ReactNode, Suspense } from 'react';
import { Empty } from './Empty.tsx';
import { Part } from './Part.tsx';

/**
 * A part of a screen whose code is loaded when it is first shown; `load` may be called before, so that it is there by then.
 * @param name as it is called on the screen: `The ideas`
 * @param waiting what stands there until then
 */
export function lazyPart<P extends object>(
  name: string,
  load: () => Promise<ComponentType<P>>,
  waiting: (props: P) => ReactNode = () => null,
): ComponentType<P> {
  const Loaded = lazy<ComponentType<P>>(() =>
    load().then(
      (component) => ({ default: component }),
      () => ({ default: () => <NotLoaded name={name} /> }),
    ),
  );
  return (props: P) => (
    <Part name={name}>
      <Suspense fallback={waiting(props)}>
        <Loaded {...props} />
      </Suspense>
    </Part>
  );
}

/** In the place of what could not be loaded. */
export const NotLoaded = ({ name }: { name: string }) => (
  <div role="alert" className="grid h-full place-items-center p-8">
    <Empty title={`${name} could not be loaded`}>
      <p className="mb-3">
        The server does not answer, or was started with another version. All that you kept is there.
      </p>
      <button type="button" className="btn btn-primary btn-sm" onClick={() => window.location.reload()}>
        Load it again
      </button>
    </Empty>
  </div>
);
