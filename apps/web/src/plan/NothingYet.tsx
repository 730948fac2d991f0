import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Empty } from '../kit/Empty.tsx';

/** A stage of a plan without keywords: what it would do with them, and the way to them. `todo`: `sort`. */
export const NothingYet = ({ todo, children }: { todo: string; children: ReactNode }) => (
  <div className="grid flex-1 place-items-center">
    <Empty title={`Nothing to ${todo} yet`}>
      <p className="mb-3">{children}</p>
      <Link to="../gather" className="btn btn-primary btn-sm">
        Gather keywords
      </Link>
    </Empty>
  </div>
);
