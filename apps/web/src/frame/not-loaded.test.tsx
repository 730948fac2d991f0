import { render, screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { orNotLoaded } from './NotLoaded.tsx';

const Stage = () => <p>Here it is</p>;

test('a stage that can not be loaded says so, with a way on', async () => {
  const { Component } = await orNotLoaded(() => Promise.reject(new TypeError('Failed to fetch')))();
  render(<Component />);
  expect(screen.getByRole('heading', { name: 'This stage could not be loaded' })).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Load it again' })).toBeTruthy();
});

test('one that can be loaded is shown', async () => {
  const { Component } = await orNotLoaded(async () => ({ Component: Stage }))();
  render(<Component />);
  expect(screen.getByText('Here it is')).toBeTruthy();
});
