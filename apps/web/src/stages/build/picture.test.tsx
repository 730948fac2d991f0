import { type CampaignRow, type PlanState, readGroupSizes } from '@sprig/contracts';
import { screen, within } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { BuiltPicture } from './BuiltPicture.tsx';

const MANY = 614;
const campaign = {
  key: 'c1',
  name: 'Drains',
  status: 'enabled',
  searches: 9_000,
  keywords: MANY,
} as CampaignRow;
const plan = { id: 1, brief: { currency: 'GBP' } } as PlanState;
const go = vi.fn();

beforeEach(() => {
  go.mockClear();
  const of = <T,>(make: (at: number) => T) => Array.from({ length: MANY }, (_, at) => make(at));
  servedBy([
    [
      readGroupSizes,
      () => ({
        builtRevision: 1,
        keys: of((at) => `g${at}`),
        names: of((at) => `drain ${at}`),
        campaigns: of(() => 0),
        campaignKeys: ['c1'],
        themes: of(() => 0),
        searches: of((at) => MANY - at),
        keywords: of(() => 1),
        themeNames: [],
      }),
    ],
  ]);
});

async function open(zoom: string | null = null, at: string | null = null) {
  const { user } = shownAt(
    '/',
    <BuiltPicture
      plan={plan}
      campaigns={[campaign]}
      by="searches"
      costs={new Map()}
      day="a day"
      at={at}
      zoom={zoom}
      page={null}
      go={go}
    />,
  );
  const picture = await screen.findByRole('group', { name: 'Campaigns and ad groups by size' });
  await within(picture).findAllByTitle(/^Ad group drain/);
  return { user, picture };
}

test('of 614 ad groups each block can be read, and what is not drawn one by one opens', async () => {
  const { user, picture } = await open();
  const part = within(picture).getByTitle(/^16 to 55 by size, 40 ad groups/);
  await user.click(part);
  expect(go).toHaveBeenLastCalledWith({ zoom: 'c1/16-55' });
});

test('what is zoomed into fills the width, says the way to it, and leads back', async () => {
  const { user } = await open('c1/16-55');
  expect(screen.queryByTitle(/^Ad group drain 15:/)).not.toBeNull();
  expect(screen.queryByTitle(/^Ad group drain 3:/)).toBeNull();
  await user.click(screen.getByText('Drains', { selector: 'button' }));
  expect(go).toHaveBeenLastCalledWith({ zoom: '' });
});

test('an ad group is found by its name, counted, and opened with what it lies in', async () => {
  const { user } = await open(null, 'g0');
  const field = screen.getByLabelText('Find an ad group by its name');
  await user.type(field, 'drain 60');
  expect(screen.getByRole('status').textContent).toBe('11 ad groups');
  await user.keyboard('{Enter}');
  const [change] = go.mock.lastCall ?? [];
  expect(change.at).toBe('g60');
  expect(change.zoom).toMatch(/^c1\//);
  await user.type(field, 'xx');
  expect(screen.getByRole('status').textContent).toBe('none');
});

test('arrows go along a row and between rows, and open what is an ad group', async () => {
  const { user, picture } = await open();
  within(picture)
    .getByRole('button', { name: /^Campaign Drains/ })
    .focus();
  await user.keyboard('{ArrowDown}');
  expect(document.activeElement?.getAttribute('aria-label')).toMatch(/^Ad group drain 0,/);
  expect(go).toHaveBeenLastCalledWith({ at: 'g0' });
  await user.keyboard('{ArrowRight}');
  expect(go).toHaveBeenLastCalledWith({ at: 'g1' });
  await user.keyboard('{End}{z}');
  expect(go.mock.lastCall?.[0].zoom).toMatch(/^c1\/\d+-614$/);
});
