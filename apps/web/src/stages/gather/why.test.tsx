import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { expect, test } from 'vitest';
import { Why } from './Why.tsx';

const worker = {
  estimateOf: async () => ({
    value: 110,
    mean: 130,
    low: 45,
    high: 280,
    ground: 46,
    band: 'many',
    factors: [
      { text: 'kettle', times: 1_305, told: 60 },
      { text: null, times: 0.9, told: 614 },
    ],
  }),
  whyNoEstimate: async () => 'words-unknown',
} as unknown as Parameters<typeof Why>[0]['worker'];

const why = (from: Parameters<typeof Why>[0]['from'], shown: string) => (
  <Why
    id={1}
    measure="searches"
    from={from}
    worker={worker}
    currency="GBP"
    title="Told by a list"
    className=""
  >
    {shown}
  </Why>
);

test('pointed at, an estimate says what it is made of, no figure why there is none, a told one who told it', async () => {
  const { rerender } = render(why('estimated', '≈ 110'));
  await userEvent.hover(screen.getByText('≈ 110'));
  expect(screen.getByText('≈ 110').title).toMatch(
    /^Estimated: kettle 1,305 × all the rest 0\.90, less 5 ≈ 110/,
  );
  rerender(<div />);
  rerender(why(null, '–'));
  await userEvent.hover(screen.getByText('–'));
  expect(screen.getByText('–').title).toMatch(/two or more of its words/);
  rerender(<div />);
  rerender(why('told', '300'));
  await userEvent.hover(screen.getByText('300'));
  expect(screen.getByText('300').title).toBe('Told by a list');
});
