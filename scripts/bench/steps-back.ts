import type { DemoKeyword } from '@sprig/market';
import { type Figure, jobsDone, planOf, seconds, startServer, takeIn, textOf, timed } from './server.ts';

/** A list that is taken out of the plan again by undo, and back by redo, with the rebuild that follows under way. */
export async function stepsBackFigures(many: readonly DemoKeyword[]): Promise<Figure[]> {
  const server = await startServer();
  const { api } = server;
  const plan = await planOf(api);
  await takeIn(api, plan, textOf(many));
  await jobsDone(api, plan, 'rebuild');
  const undone = await timed(() => api('POST', `/plans/${plan}/undo`, {}));
  const again = await timed(() => api('POST', `/plans/${plan}/redo`, {}));
  await server.stop();
  return [
    {
      name: `an import of ${many.length.toLocaleString('en')} keywords undone`,
      value: seconds(undone),
      target: '3 s',
    },
    { name: 'and done again at once, beside the rebuild', value: seconds(again), target: '–' },
  ];
}
