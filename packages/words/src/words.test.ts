/** Every code that core answers has its sentence, and sentences are made as people read them. */
import { checkName } from '@kindred/core/naming/convention';
import { conventionProblems } from '@kindred/core/naming/convention-problems';
import { CodedError } from '@kindred/core/platform/coded-error';
import { describe, expect, it } from 'vitest';
import { eventWords } from './events.ts';
import { fileError, modelNote, undrawnReason } from './files.ts';
import { conventionProblem, fieldProblem, sayVerdict, valueLineProblem } from './naming.ts';
import { accessReason, pasteProblems } from './people.ts';
import { finishingProblem, gateProblem } from './register.ts';
import { counted, pluralOf, quoted, sentence } from './sentence.ts';

describe('plurals', () => {
  it.each([
    [1, 'file', '1 file'],
    [0, 'file', '0 files'],
    [2, 'delivery', '2 deliveries'],
    [3, 'day', '3 days'],
  ])('%i %s', (n, one, words) => expect(counted(n, one)).toBe(words));
  it('may be another word', () => expect(counted(2, 'person', 'people')).toBe('2 people'));
  it('of a list are quoted', () => expect([pluralOf('copy'), quoted(['a', 'b'])]).toEqual(['copies', '“a”, “b”']));
});

it('a code that nobody has written a sentence for is shown as it is', () => {
  expect(sentence({}, 'new-code')).toBe('new-code');
  expect(eventWords({ verb: 'something new', before: null, after: null })).toBe('something new');
});

describe('what happened', () => {
  it.each([
    ['delivered', { version: 1 }, 'delivered'],
    ['delivered', { version: 3 }, 'version 3 delivered'],
    ['delivered in conflict', { version: 3 }, 'version 3 delivered, in conflict with the current one'],
    ['made current again', { restores: 1 }, 'version 1 made current again'],
    ['version set aside', { decided: 2 }, 'version 2 set aside'],
    ['files downloaded', { codes: ['A'] }, '1 file downloaded'],
    ['files downloaded', { codes: ['A', 'B'] }, '2 files downloaded'],
  ])('%s %j', (verb, after, words) => expect(eventWords({ verb, before: null, after })).toBe(words));
});

describe('a file that cannot be read', () => {
  it.each([
    ...['empty', 'no-step-file', 'no-data-section', 'cut-off', 'not-text', 'not-json', 'no-roles'],
    ...['no-zip', 'zip-encrypted', 'zip-damaged', 'zip-too-large', 'bcf-no-file', 'bcf-xml', 'bcf-entities'],
  ])('%s says what it is', (code) => expect(fileError(new CodedError(code))).toMatch(/^This |^Export /));
  it('names what is wrong in it', () => {
    const values = { name: 'Author', kind: 'register', action: 'fly', possible: ['see', 'add'] };
    expect(fileError(new CodedError('unknown-action', values))).toBe(
      '“Author” has “fly” for “register”. Possible are: see, add.',
    );
    expect(modelNote({ code: 'no-shapes', values: {} })).toContain('No element');
    expect(modelNote({ code: 'damaged-lines', values: { count: 4, lines: ['12', '40'] } })).toBe(
      '4 damaged statements left out (line 12, 40 …). Export the file again.',
    );
    expect(undrawnReason({ reason: 'missing', detail: '#9' })).toBe('its shape refers to #9, which is not in the file');
  });
});

describe('names', () => {
  const convention = {
    name: 'Building',
    separator: '-',
    fields: [
      { name: 'Form', kind: 'list' as const, values: [{ code: 'D', meaning: 'Drawing' }] },
      { name: 'Number', kind: 'number' as const, length: 4 },
    ],
  };
  it('have a sentence for each field that is wrong', () => {
    const said = sayVerdict(checkName(convention as never, 'Q-12'));
    expect(said.fields.map(({ problem }) => problem)).toEqual([
      '“Q” is not an allowed value',
      '“12” must be exactly 4 digits',
    ]);
  });
  it('with too few or too many parts say the form', () => {
    expect(sayVerdict(checkName(convention as never, 'D')).problem).toContain('1 field where the convention has 2');
    expect(sayVerdict(checkName(convention as never, 'D-0001-x')).problem).toContain('Too much: “x”');
  });
  it.each([
    [{ code: 'missing' }, 'is missing'],
    [{ code: 'digits', min: 1, max: 1 }, '“7x” must be exactly 1 digit'],
    [{ code: 'digits', min: 2, max: Infinity }, '“7x” must be at least 2 digits'],
    [{ code: 'characters', min: 2, max: 6 }, '“7x” must have 2 to 6 characters'],
    [{ code: 'pattern', pattern: '[A-Z]+' }, '“7x” does not fit [A-Z]+'],
  ])('%j', (problem, words) => expect(fieldProblem(problem as never, '7x')).toBe(words));

  it('every problem of a convention has words of its own', () => {
    const field = (over: object) => ({ name: '', separator: '-', fields: [{ name: 'F', ...over }] });
    const wrong = [
      { name: '', separator: 'ab', fields: [] },
      field({ kind: 'list', values: [] }),
      field({
        kind: 'list',
        values: [
          { code: 'A-B', meaning: '' },
          { code: 'A', meaning: '' },
          { code: 'A', meaning: '' },
        ],
      }),
      field({ kind: 'number', length: 99 }),
      field({ kind: 'pattern', pattern: '(a+)+', minLength: 3, maxLength: 2 }),
      field({ kind: 'pattern', pattern: '[', minLength: 1, maxLength: 2 }),
    ];
    for (const one of wrong)
      for (const problem of conventionProblems(one as never)) {
        const words = conventionProblem(problem);
        expect(words).not.toBe(problem.code);
        expect(words).toMatch(/\.$/);
        expect(words).not.toContain('undefined');
      }
    expect(valueLineProblem({ code: 'value-twice', values: { value: 'A' } })).toBe('“A” is there twice.');
  });
});

describe('people', () => {
  it('pasted wrongly are told all that is wrong with a line', () => {
    expect(
      pasteProblems([
        { code: 'no-address', values: { address: 'ann' } },
        { code: 'unknown-team', values: { name: 'Arch', nearest: 'Architecture' } },
        { code: 'unknown-role', values: { name: 'Boss', nearest: '' } },
      ] as never),
    ).toBe('“ann” is not an e-mail address; there is no team “Arch”; nearest is Architecture; there is no role “Boss”');
    expect(pasteProblems([])).toBe('');
  });
  it('are told why they may not', () => {
    const values = { name: 'Ann', roles: ['Author', 'Reader'], action: 'share', kind: 'register' };
    expect(accessReason({ code: 'no-role-gives', values } as never)).toBe(
      'None of the roles of Ann (Author, Reader) has the right “share” for “register”.',
    );
    const home = { path: 'Structure', home: 'Structure', name: 'Ann', team: null };
    expect(accessReason({ code: 'other-teams-home', values: home } as never)).toContain('Ann is in no team');
  });
});

describe('gates and reviews', () => {
  it('say what is missing', () => {
    expect(gateProblem({ code: 'blocking-issues', numbers: [3, 7] })).toBe('blocking issue 3, 7 is open on it');
    expect(gateProblem({ code: 'status', status: '', fitting: ['A1'] })).toBe(
      'its status (none) does not fit; what fits: A1',
    );
    expect(finishingProblem({ code: 'comments-missing', returnCode: 'AGAIN', comments: 0 } as never)).toContain(
      'AGAIN',
    );
    expect(finishingProblem({ code: 'comments-present', returnCode: 'GO', comments: 1 } as never)).toContain(
      'there is 1:',
    );
  });
});
