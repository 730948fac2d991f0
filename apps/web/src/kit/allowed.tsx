import type { Access } from '@sprig/contracts';
import { createContext, type ReactNode, useContext } from 'react';

type May = (access: Access) => boolean;
const Standing = createContext<May>(() => true);
/** What a part of a screen needs for its fields to be changed. */
const Need = createContext<Access>('build');

/** Says what who looks may do below; the server decides all the same. */
export const Allowed = ({ may, children }: { may: May; children: ReactNode }) => (
  <Standing value={may}>{children}</Standing>
);

export const useMay = (): May => useContext(Standing);

/** Whether what stands here may be changed by who looks. */
export function useMayEdit(): boolean {
  const need = useContext(Need);
  return useContext(Standing)(need);
}

type Props = { access: Access; children: ReactNode; className?: string };

/** Says what it needs to change anything below, where that is not to build. */
export const Needs = ({ access, children }: Omit<Props, 'className'>) => (
  <Need value={access}>{children}</Need>
);

/** Fields and buttons that only those can use who may: for all others they are there to be read. */
export function Only({ access, children, className = 'contents' }: Props) {
  const isAllowed = useMay()(access);
  return (
    <Need value={access}>
      <fieldset disabled={!isAllowed} className={className}>
        {children}
      </fieldset>
    </Need>
  );
}

/** What only those see who may use it. */
export const Where = ({ access, children }: Omit<Props, 'className'>) => (useMay()(access) ? children : null);
