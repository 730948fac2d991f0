import { listNegatives, listReceipts, setCut } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { act, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { awaited, heard, refusing, servedBy, shownAt } from '../testing/rendered.tsx';
import { question } from './question.ts';
import { useWrite } from './use-write.ts';

const params = { plan: 1 };
const told = { params, body: { ids: [7], cut: true } };
let cut: ReturnType<
  typeof useWrite<typeof setCut.params, typeof setCut.query, typeof setCut.body, typeof setCut.answer>
>;
function Shown({ refusals }: { refusals?: 'here' }) {
  cut = useWrite(setCut, { said: () => 'Cut one.', ...(refusals && { refusals }) });
  useQuery(question(listNegatives, { params }));
  useQuery(question(listReceipts, { params }));
  return <p>{cut.isBusy ? 'busy' : (cut.refusal ?? 'still')}</p>;
}
const text = () => screen.getByRole('paragraph').textContent;

async function open(answer: () => unknown, refusals?: 'here') {
  const asked = servedBy([
    [listNegatives, () => ({ negatives: [] })],
    [listReceipts, () => ({ receipts: [] })],
    [setCut, answer],
  ]);
  shownAt('/', <Shown {...(refusals && { refusals })} />);
  await waitFor(() => expect(asked).toHaveLength(2));
  asked.length = 0;
  return asked;
}

test('is busy until what it changes has been read again, says so, and answers what the server did', async () => {
  const words = heard();
  const answer = awaited<object>();
  const asked = await open(() => answer.promise);
  let done: unknown;
  await act(async () => {
    void cut.write(told).then((what) => {
      done = what;
    });
  });
  expect(text()).toBe('busy');
  await act(async () => answer.answer({ revision: 2 }));
  await waitFor(() => expect(done).toEqual({ revision: 2 }));
  await waitFor(() => expect(text()).toBe('still'));
  // What it has not changed is not asked for again.
  expect(asked.map(({ path }) => path)).toEqual(['/api/plans/1/keywords/cut', '/api/plans/1/negatives']);
  expect(words()).toEqual([{ kind: 'said', words: 'Cut one.' }]);
});

test('refused, it answers null and tells why: beside the field where that is wanted', async () => {
  const words = heard();
  await open(() => refusing({ code: 'invalid', message: 'Not this one.' }), 'here');
  let done: unknown = 'nothing yet';
  await act(async () => {
    done = await cut.write(told);
  });
  expect(done).toBeNull();
  expect(text()).toBe('Not this one.');
  expect(words()).toEqual([]);
  act(() => cut.forget());
  await waitFor(() => expect(text()).toBe('still'));
});
