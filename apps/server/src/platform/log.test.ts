import { expect, test } from 'vitest';
import { makeLog } from './log.ts';

const logged = (error: unknown): Record<string, never> & { error: Record<string, unknown> } => {
  let line = '';
  const write = (text: string) => {
    line += text;
  };
  const log = makeLog('info', { write });
  log.error({ error, job: 'j1' }, 'a job failed');
  return JSON.parse(line);
};

test('an error is logged with its message, its stack and its cause', () => {
  const told = logged(new Error('the roof', { cause: new Error('the storm') }));
  expect(told).toMatchObject({ msg: 'a job failed', job: 'j1' });
  expect(told.error).toMatchObject({ message: expect.stringContaining('the roof') });
  expect(told.error.stack).toContain('log.test.ts');
  expect(JSON.stringify(told.error)).toContain('the storm');
});

test('what was bound to a statement is not', () => {
  const error = Object.assign(new Error('too long'), {
    sql: 'insert into t values ($1)',
    parameters: ['secret tea'],
    parent: { parameters: ['secret tea'] },
    original: { parameters: ['secret tea'] },
  });
  expect(JSON.stringify(logged(error))).not.toContain('secret tea');
});

test('nor is what a browser or a program is known by', () => {
  let line = '';
  const log = makeLog('info', {
    write: (text: string) => {
      line += text;
    },
  });
  const headers = { cookie: 'sprig=secret', authorization: 'Bearer secret', accept: 'tea' };
  log.info({ req: { headers }, res: { headers: { 'set-cookie': ['sprig=secret'] } } }, 'a request');
  expect(line).toContain('tea');
  expect(line).not.toContain('secret');
});
