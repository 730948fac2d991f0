import * as api from '@sprig/contracts';
import { matchTypes, setOf } from '@sprig/core/match';
import { emptyRecipe } from '@sprig/core/mix';
import { patternOf } from '@sprig/core/write';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { execute } from '../../db/connect.ts';
import { startTestServer, type TestServer } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const prefer = (body: object) => server.call(api.editPreferences, { body: body as never });
async function planIn(currency: string, more: object = {}) {
  const { id } = await server.call(api.makePlan, {
    body: { name: 'A plan', currency, language: 'en', site: '', ...more } as never,
  });
  const params = { plan: id };
  const { layout } = await server.call(api.readLayout, { params });
  const { patterns } = await server.call(api.readPatterns, { params });
  return {
    id,
    types: layout.lanes.map(({ types }) => types),
    bid: layout.ladder.defaultBase,
    forms: patterns.map(({ body }) => body.form),
    names: patterns.map(({ body }) => body.name),
  };
}
const asUsual = { newPlans: { matchTypes: null, defaultBid: null, adForms: null }, newPattern: null };

describe('what new plans begin with', () => {
  test('match types and kinds of ads as preferred, the default bid in its currency alone', async () => {
    const usual = await planIn('GBP');
    const newPlans = {
      matchTypes: ['exact'],
      defaultBid: { amount: 750_000, currency: 'EUR' },
      adForms: ['plain', 'assembled'],
    };
    await prefer({ newPlans });
    expect(await planIn('EUR')).toMatchObject({
      types: [setOf(['exact'])],
      bid: 750_000,
      forms: ['plain', 'assembled'],
    });
    expect((await planIn('GBP')).bid).toBe(usual.bid);
    // What another plan has goes before it.
    await prefer({ newPlans: { ...newPlans, matchTypes: [...matchTypes] } });
    expect((await planIn('GBP', { like: usual.id })).types).toEqual(usual.types);
    await prefer(asUsual);
    expect(await planIn('GBP')).toMatchObject({ types: usual.types, forms: usual.forms });
  });

  test('the ad pattern that is kept as a beginning', async () => {
    const newPattern = patternOf({ headline1: ['@keyword today'] }, 'title', { name: 'Ours' });
    await prefer({ newPattern });
    expect((await planIn('GBP')).names).toEqual(['Ours']);
    await prefer(asUsual);
    expect((await planIn('GBP')).names).not.toEqual(['Ours']);
  });

  test('what can’t be kept is refused with the remedy; what an older version kept otherwise keeps nobody out', async () => {
    const long = {
      ...emptyRecipe('Long'),
      lists: [{ id: 1, kind: 'own' as const, name: 'Words', text: 'x'.repeat(100_001), takes: [] }],
    };
    await expect(prefer({ newRecipe: long })).rejects.toThrow(/Share the longest/);
    await expect(prefer({ newPlans: { ...asUsual.newPlans, matchTypes: [] } })).rejects.toThrow(/at least/);
    await prefer({ newRecipe: { ...long, lists: [] } });
    await prefer({ helps: false });
    const { preferences } = await server.call(api.readMe, {});
    expect([preferences.newRecipe?.name, preferences.helps]).toEqual(['Long', false]);
    await execute(
      server.database,
      `update actors set preferences = preferences || '{"newRecipe": {"name": "Old"}, "newPattern": 7}'`,
      [],
    );
    expect((await server.call(api.readMe, {})).preferences).toMatchObject({
      newRecipe: null,
      newPattern: null,
      helps: false,
    });
    await prefer({ newRecipe: null, newPattern: null });
  });
});
