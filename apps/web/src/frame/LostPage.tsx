import { isRouteErrorResponse, Link, useRouteError } from 'react-router';
import { Empty } from '../kit/Empty.tsx';

/** Nothing is at this address, or a screen has failed. */
export function LostPage({ words }: { words?: string }) {
  const error = useRouteError();
  const told =
    words ??
    (error && !isRouteErrorResponse(error)
      ? 'This screen failed. What you kept is safe on the server; open it again.'
      : 'Nothing is at this address.');
  return (
    <div className="grid h-full place-items-center p-8">
      <Empty title={told}>
        <Link to="/" className="btn btn-primary btn-sm">
          All plans
        </Link>
      </Empty>
    </div>
  );
}
