import { expect, it } from 'vitest';
import { loggable } from './log.ts';

const fromDatabase = Object.assign(new Error('invalid input syntax for type uuid: "my secret"'), {
  severity: 'ERROR',
  code: '23505',
  detail: 'Key (email)=(ann@test.example) already exists.',
  constraint: 'users_email_unique',
  routine: 'string_to_uuid',
});

it('of a failed statement says where, never what people wrote', () => {
  const wrapped = Object.assign(new Error('Failed query: insert into "users" values ($1)\nparams: my secret'), {
    query: 'insert into "users" values ($1)',
    params: ['my secret'],
    cause: fromDatabase,
  });
  for (const error of [fromDatabase, wrapped]) {
    const said = JSON.stringify(loggable(error));
    expect(said).not.toMatch(/secret|ann@test/);
    expect(said).toContain('users_email_unique');
  }
});

it('of all others says what they say', () => {
  expect(loggable(new Error('The disk is full'))).toMatchObject({ message: 'The disk is full' });
});
