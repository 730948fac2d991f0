import { LONGEST_MS, World } from './world.ts';

export type Loaded = {
  clients: number;
  seconds: number;
  tally: World['tally'];
  busy: number;
  p50: number;
  p99: number;
  failures: string[];
};

/** Many clients at once on a few plans, one of which takes in long lists all the time: every acknowledged edit has to be there. */
export async function loaded(
  databaseUrl: string,
  clients: number,
  seconds: number,
  seed: number,
): Promise<Loaded> {
  const world = await World.open(databaseUrl, seed);
  const failures: string[] = [];
  const times: number[] = [];
  let busy = 0;
  try {
    const plans = await Promise.all(Array.from({ length: 10 }, (_, at) => world.makePlan(`Plan ${at}`)));
    const note = (answer: Awaited<ReturnType<World['ask']>>, what: string) => {
      if (!answer) failures.push(`${what}: no answer`);
      else {
        times.push(answer.ms);
        if (answer.status >= 500) failures.push(`${what}: ${answer.status}`);
        if (answer.ms > LONGEST_MS) failures.push(`${what}: ${Math.round(answer.ms)} ms`);
      }
      return answer;
    };
    // Each client has a field of its own to edit: the name of a source that it brought in.
    const fields = await Promise.all(
      Array.from({ length: clients }, async (_, client) => {
        const plan = plans[client % plans.length] as number;
        const name = `Client ${client}.0`;
        await world.takeIn(plan, name, `veneer ${client}\n`);
        await world.idle(plan);
        return {
          client,
          plan,
          name,
          source: (await sourcesOf(world, plan)).find((one) => one.name === name)?.id,
        };
      }),
    );
    const until = performance.now() + seconds * 1_000;
    const importing = (async () => {
      for (let n = 0; performance.now() < until; n++) {
        const list = Array.from({ length: 30_000 }, (_, at) => `implant ${n} no ${at}`).join('\n');
        await world.takeIn(plans[0] as number, `List ${n}`, list);
        await world.idle(plans[0] as number);
      }
    })();
    await Promise.all(
      fields.map(async ({ client, plan, name: first, source }) => {
        let name = first;
        for (let n = 1; performance.now() < until; n++) {
          const what = world.below(4);
          if (what === 0) note(await world.ask('GET', `/plans/${plan}`), 'open a plan');
          else if (what === 1) note(await world.ask('GET', `/plans/${plan}/sources`), 'list sources');
          else if (what === 2) note(await world.ask('GET', '/health'), 'health');
          else {
            const next = `Client ${client}.${n}`;
            const path = `/plans/${plan}/sources/${source}`;
            const done = note(
              await world.ask('PATCH', path, { name: next, before: name }),
              'rename a source',
            );
            if (done?.status === 200) name = next;
            else if (done?.status === 423) busy++;
            else if (done) failures.push(`rename a source: ${done.status} ${JSON.stringify(done.body)}`);
          }
        }
        const now = (await sourcesOf(world, plan)).find(({ id }) => id === source);
        if (now?.name !== name)
          failures.push(`a source is called ${now?.name}, and ${name} was acknowledged`);
      }),
    );
    await importing;
  } catch (error) {
    failures.push((error as Error).message);
  } finally {
    await world.stop();
  }
  times.sort((a, b) => a - b);
  const at = (share: number) => Math.round(times[Math.floor(times.length * share)] ?? 0);
  return { clients, seconds, tally: world.tally, busy, p50: at(0.5), p99: at(0.99), failures };
}

const sourcesOf = async (world: World, plan: number): Promise<{ id: number; name: string }[]> =>
  ((await world.ask('GET', `/plans/${plan}/sources`))?.body.sources ?? []) as { id: number; name: string }[];
