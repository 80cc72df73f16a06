import { describe, expect, it } from 'vitest';
import { mayAddVersions, mayChange, mayDescribe, type Asker } from './may-change.ts';

const author: Asker = { administrator: false, grid: { register: ['see', 'add', 'change'] }, teamId: 'own' };
const container = { level: 'deliver', state: 'shared', teamId: 'own' } as const;

describe('what may be changed', () => {
  it('is what lies in a folder that is open, of one’s own team, with the right for it', () => {
    expect(mayDescribe(author, container)).toBe(true);
    expect(mayDescribe(author, { ...container, level: 'see' })).toBe(false);
    expect(mayDescribe(author, { ...container, teamId: 'other' })).toBe(false);
    expect(mayDescribe({ ...author, grid: { register: ['see', 'add'] } }, container)).toBe(false);
    expect(mayDescribe(author, { ...container, teamId: null })).toBe(true);
  });
  it('is of other teams for whoever manages the register, or administers the project', () => {
    const other = { ...container, teamId: 'other' };
    expect(mayChange({ ...author, grid: { register: ['see', 'change', 'manage'] } }, other)).toBe(true);
    expect(mayChange({ ...author, administrator: true }, other)).toBe(true);
  });
  it('is not what is archived; a state may still be', () => {
    const archived = { ...container, state: 'archived' } as const;
    expect(mayDescribe(author, archived)).toBe(false);
    expect(mayChange(author, archived)).toBe(true);
  });
  it('takes another right where versions are added', () => {
    expect(mayAddVersions(author, container)).toBe(true);
    expect(mayAddVersions({ ...author, grid: { register: ['see', 'change'] } }, container)).toBe(false);
  });
});
