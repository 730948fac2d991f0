import { readMe } from '@sprig/contracts';
import { act } from '@testing-library/react';
import axe from 'axe-core';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { meOf, servedBy, shown } from '../testing/rendered.tsx';
import { parts } from './parts.tsx';

beforeEach(() => {
  servedBy([[readMe, () => meOf()]]);
  // React tells of the part that is made to fail.
  vi.spyOn(console, 'error').mockImplementation(() => {});
});

const states = parts.flatMap(({ name, shown: all }) =>
  all.map(({ state, element }) => [`${name}, ${state}`, element] as const),
);

describe('each part of the kit in each of its states', () => {
  test.each(states)('%s: is drawn, and axe finds nothing', async (_name, element) => {
    const { container } = shown(<main>{element}</main>);
    await act(async () => {});
    expect(container.querySelector('main > *')).not.toBeNull();
    // Colours are not worked out here: the looks of whole screens are tested for them.
    const { violations } = await axe.run(container, {
      rules: { 'color-contrast': { enabled: false }, region: { enabled: false } },
    });
    expect(violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([]);
  });
});

/** Parts that can't be shown alone: an editor that is loaded apart, what stands around others. */
const apart = new Set(['LinesEditor', 'NotLoaded', 'YieldEnd', 'Refused']);

test('every component of the kit is shown', () => {
  const kit = import.meta.glob<Record<string, unknown>>(
    ['../kit/*.tsx', '../kit/table/Table.tsx', '!**/*.test.tsx'],
    {
      eager: true,
    },
  );
  const shownHere = new Set(parts.flatMap(({ uses }) => uses));
  const components = Object.values(kit).flatMap((module) =>
    Object.entries(module).filter(([name]) => /^[A-Z][a-z]/.test(name) && !apart.has(name)),
  );
  expect(components.length).toBeGreaterThan(15);
  expect(components.filter(([, component]) => !shownHere.has(component)).map(([name]) => name)).toEqual([]);
});
