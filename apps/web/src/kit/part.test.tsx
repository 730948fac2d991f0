import { screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { shown } from '../testing/rendered.tsx';
import { type Fault, onFault } from './faults.ts';
import { lazyPart } from './lazy-part.tsx';
import { Part } from './Part.tsx';

let faults: Fault[] = [];
let isBroken = true;
const Picture = ({ of = 'keywords' }: { of?: string }) => {
  if (isBroken) throw new Error('the scale has no end');
  return <p>A picture of {of}</p>;
};
beforeEach(() => {
  faults = [];
  isBroken = true;
  onFault((fault) => faults.push(fault));
  vi.spyOn(console, 'error').mockImplementation(() => {});
});
afterEach(() => vi.restoreAllMocks());

test('a part that fails leaves what is around it, has a number that is told once, and can be tried again', async () => {
  const { user } = shown(
    <>
      <p>The table</p>
      <Part name="The picture">
        <Picture />
      </Part>
    </>,
  );
  expect(screen.getByText('The table')).toBeTruthy();
  const told = screen.getByRole('alert').textContent ?? '';
  expect(told).toContain('The picture failed here');
  expect(faults).toEqual([
    { number: expect.stringMatching(/^[A-Z0-9]{7}$/), part: 'The picture', error: expect.any(Error) },
  ]);
  expect(told).toContain(faults[0]?.number);
  isBroken = false;
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  expect(screen.getByText('A picture of keywords')).toBeTruthy();
});

test('of something else it is tried again by itself', () => {
  const part = (of: string) => (
    <Part name="The picture" of={of}>
      <Picture of={of} />
    </Part>
  );
  const { rerender } = shown(part('ads'));
  isBroken = false;
  rerender(part('ads'));
  expect(screen.queryByRole('alert')).not.toBeNull();
  rerender(part('bids'));
  expect(screen.getByText('A picture of bids')).toBeTruthy();
});

test('a part whose code comes later is there then; what can not be loaded says so, with a way on', async () => {
  isBroken = false;
  const Later = lazyPart<{ of?: string }>(
    'The picture',
    async () => Picture,
    () => <p>one moment</p>,
  );
  const Never = lazyPart('The ideas', () => Promise.reject(new Error('gone')));
  shown(
    <>
      <Later of="themes" />
      <Never />
    </>,
  );
  expect(screen.getByText('one moment')).toBeTruthy();
  expect(await screen.findByText('A picture of themes')).toBeTruthy();
  expect((await screen.findByRole('alert')).textContent).toContain('The ideas could not be loaded');
  expect(screen.getByRole('button', { name: 'Load it again' })).toBeTruthy();
  expect(faults).toEqual([]);
});
