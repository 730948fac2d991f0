import type { Outlet } from '@sprig/core/outlets';

/** What stands at a place of an outlet: `limits.keywordLength`, `sheets.0.columns`. */
export const partAt = (outlet: Outlet, at: string): unknown =>
  at.split('.').reduce<unknown>((part, name) => (part as Record<string, unknown> | null)?.[name], outlet);

/** The outlet with something else at a place. */
export function withPart(outlet: Outlet, at: string, value: unknown): Outlet {
  const copy = structuredClone(outlet);
  const names = at.split('.');
  const last = names.pop() as string;
  const part = names.reduce<Record<string, unknown>>(
    (one, name) => one[name] as Record<string, unknown>,
    copy as never,
  );
  part[last] = value;
  return copy;
}
