import type { Convention } from '@kindred/core/naming/convention';
import { describe, expect, it } from 'vitest';
import { createJudge } from './intake-verdicts.ts';

const convention = (): Convention => ({
  name: 'Test',
  separator: '-',
  fields: [
    { name: 'Project', kind: 'list', values: [{ code: 'ORP', meaning: '' }] },
    { name: 'Form', kind: 'list', values: [{ code: 'D', meaning: '' }] },
    { name: 'Number', kind: 'number', length: 4 },
  ],
});

describe('a name at the intake', () => {
  const judge = createJudge();
  it('that conforms lacks nothing', () => {
    expect(judge(convention(), 'ORP-D-0001')).toMatchObject({ verdict: { ok: true }, missing: [] });
  });
  it('gets the nearest values, and says which values its convention would need', () => {
    const { nearest, missing } = judge(convention(), 'OPR-D-1');
    expect(nearest).toBe('ORP-D-0001');
    expect(missing).toEqual([{ field: 'Project', code: 'OPR' }]);
  });
  it('with another number of parts needs no value, but a form', () => {
    expect(judge(convention(), 'scan')).toMatchObject({ verdict: { ok: false }, missing: [] });
  });
});

it('is judged once, and anew when its convention is another', () => {
  const judge = createJudge();
  const first = convention();
  expect(judge(first, 'ORP-D-0001')).toBe(judge(first, 'ORP-D-0001'));
  const stricter = convention();
  stricter.fields[2] = { name: 'Number', kind: 'number', length: 5 };
  expect(judge(stricter, 'ORP-D-0001').verdict.ok).toBe(false);
});

it('a thousand names are judged in a moment, and again in none', () => {
  const judge = createJudge();
  const one = convention();
  const names = Array.from({ length: 1000 }, (_, i) => `OPR-X-${i}`);
  const judged = names.map((name) => judge(one, name));
  expect(names.map((name) => judge(one, name))).toEqual(judged);
});
