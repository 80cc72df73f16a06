import { ACTIONS, KINDS, type Grid } from '@kindred/core/people/rights';
import { GUEST_ACTS } from '@kindred/contract/platform/operation';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { guestStanding, system, type Actor, type Guest, type Member } from './caller.ts';
import { ProblemError } from './errors.ts';
import { Gate, requireAccess } from './gate.ts';

const person: Actor = {
  kind: 'person',
  id: 'p',
  name: 'Ann',
  email: 'ann@test.example',
  initials: 'A',
  colour: '#000000',
  installationAdministrator: false,
  csrfToken: 'token',
  sessionId: 's',
  credential: 'session:s',
};
const folders = { ceiling: 'see', decided: [] } as const;
const member = (grid: Grid, administrator = false): Member => ({
  ...person,
  kind: 'member',
  projectId: 'x',
  memberId: 'm',
  teamId: null,
  partyId: null,
  workAreas: null,
  standing: { administrator, grids: [grid] },
  folders: { ...folders, decided: [] },
});
const guest = (allowed: Guest['allowed']): Guest => ({
  kind: 'guest',
  id: 'g',
  name: 'A visitor',
  projectId: 'x',
  linkId: 'l',
  teamId: null,
  allowed,
  standing: guestStanding({ scene: ['see'] }),
  folders: { ...folders, decided: [] },
});
const refused = (run: () => void): number | undefined => {
  try {
    run();
    return undefined;
  } catch (error) {
    expect(error).toBeInstanceOf(ProblemError);
    return (error as ProblemError).status;
  }
};

describe('who may call what', () => {
  it('a person outside the project finds nothing there', () => {
    expect(refused(() => requireAccess(person, { access: 'signed in' }))).toBeUndefined();
    for (const access of ['member', 'administrator', { kind: 'register', action: 'see' }] as const)
      expect(refused(() => requireAccess(person, { access }))).toBe(404);
  });

  it('a member may what one of their roles gives, and nothing else', () => {
    const cell = fc.record({ kind: fc.constantFrom(...KINDS), action: fc.constantFrom(...ACTIONS) });
    fc.assert(
      fc.property(cell, cell, (given, asked) => {
        const same = given.kind === asked.kind && given.action === asked.action;
        const caller = member({ [given.kind]: [given.action] });
        expect(refused(() => requireAccess(caller, { access: asked }))).toBe(same ? undefined : 403);
        expect(refused(() => requireAccess(member({}, true), { access: asked }))).toBeUndefined();
      }),
    );
    expect(refused(() => requireAccess(member({}), { access: 'administrator' }))).toBe(403);
  });

  it('a guest may what the link allows of what is open to guests, whatever else it takes', () => {
    fc.assert(
      fc.property(
        fc.subarray([...GUEST_ACTS]),
        fc.option(fc.constantFrom(...GUEST_ACTS), { nil: undefined }),
        (allowed, open) => {
          const operation = { access: { kind: 'register', action: 'manage' } as const, ...(open && { guest: open }) };
          const may = open !== undefined && allowed.includes(open);
          expect(refused(() => requireAccess(guest(allowed), operation))).toBe(may ? undefined : 403);
        },
      ),
    );
    expect(refused(() => requireAccess(guest([...GUEST_ACTS]), { access: 'signed in' }))).toBe(403);
  });

  it('the application itself needs no gate', () => {
    expect(refused(() => requireAccess(system('upkeep'), { access: 'administrator' }))).toBeUndefined();
  });
});

describe('the gate', () => {
  const gate = new Gate(
    [
      async ({ authorization }) => (authorization === 'Link l' ? guest(['see']) : undefined),
      async ({ cookie }) => (cookie ? member({ issues: ['see'] }) : undefined),
    ],
    async () => [],
  );
  const request = (headers: Record<string, string>, method = 'GET') => ({ method, headers, params: {} }) as never;
  const see = { kind: 'issues', action: 'see' } as const;

  it('asks each way to know somebody in turn', async () => {
    expect((await gate.admit(request({ cookie: 'c' }), { access: see }))?.kind).toBe('member');
    expect((await gate.admit(request({ authorization: 'Link l' }), { access: see, guest: 'see' }))?.kind).toBe('guest');
    await expect(gate.admit(request({}), { access: see })).rejects.toMatchObject({ status: 401 });
    expect(await gate.admit(request({}), { access: 'public' })).toBeUndefined();
  });

  it('takes changes by session from our own pages alone', async () => {
    const admit = (headers: Record<string, string>) =>
      gate.admit(request({ cookie: 'c', ...headers }, 'POST'), { access: see });
    await expect(admit({})).rejects.toMatchObject({ code: 'csrf' });
    expect((await admit({ 'x-csrf-token': 'token' }))?.kind).toBe('member');
  });
});
