import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { numberOf, tellFault } from './faults.ts';

type Props = {
  /** What fails, as it is called on the screen: `The table`. */
  name: string;
  children: ReactNode;
  /** What it is shown of: of something else it is tried again by itself. */
  of?: unknown;
};

/** A part of a screen that fails by itself: all around it goes on, and it can be tried again. */
export const Part = ({ name, children, of }: Props) => (
  <ErrorBoundary
    resetKeys={[of]}
    onError={(error) => tellFault(name, error)}
    fallbackRender={(failed) => <PartFailed name={name} {...failed} />}
  >
    {children}
  </ErrorBoundary>
);

function PartFailed({ name, error, resetErrorBoundary }: FallbackProps & { name: string }) {
  return (
    <div role="alert" className="m-auto flex max-w-md flex-col items-start gap-2 p-5">
      <p className="font-semibold">{name} failed here</p>
      <p>
        What you kept is safe on the server. Try again; if it fails again, tell whoever runs this server of
        error <span className="font-semibold">{numberOf(error)}</span>.
      </p>
      <button type="button" className="btn btn-sm" onClick={resetErrorBoundary}>
        Try again
      </button>
    </div>
  );
}
