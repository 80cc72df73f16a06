/** What later capabilities add to a project: its part of a template, and what the portfolio shows of it. */
import type { TemplateContent } from '@kindred/contract/portfolio/templates';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';

/** A new project: ids of what earlier capabilities added from the template, by name. */
export interface NewProject {
  projectId: string;
  creatorId: string;
  number: string;
  name: string;
  ids: Record<'roles' | 'teams' | 'conventions' | 'folders', ReadonlyMap<string, string>>;
}

export interface TemplatePart {
  add(db: Db, project: NewProject, content: TemplateContent): Promise<void>;
  read(platform: Platform, member: Member): Promise<Partial<TemplateContent>>;
}

export interface Membership {
  /** How many people are in each of these projects. */
  count(db: Db, projectIds: readonly string[]): Promise<Map<string, number>>;
  noteVisit(platform: Platform, memberId: string): Promise<void>;
}

declare module '../platform/capability.ts' {
  interface Capability {
    template?: TemplatePart;
    membership?: Membership;
  }
}

type Known = Pick<Platform, 'capabilities'>;
export const templateParts = ({ capabilities }: Known): TemplatePart[] =>
  capabilities.all.flatMap(({ template }) => template ?? []);
export const membershipOf = ({ capabilities }: Known): Membership =>
  capabilities.all.find(({ membership }) => membership)!.membership!;
