import type { FileKind } from '@kindred/core/register/file-kind';
import type { Placing } from '@kindred/core/scene/placing';
import type { SQL } from 'drizzle-orm';
import type { Member } from './caller.ts';
import type { Change } from './change.ts';
import type { Route } from './http.ts';
import type { JobKind } from './jobs.ts';
import type { LongJobKind } from './long-jobs.ts';
import type { Platform } from './services.ts';
import type { Subject } from './subjects.ts';

/** Somebody leaves a project; `toId`: who takes over what they had open. */
export interface Leaving {
  projectId: string;
  fromId: string;
  toId: string | null;
}

/** A team is removed from a project; `toId`: the team that takes over what it had. */
export interface TeamLeaving {
  projectId: string;
  fromId: string;
  toId: string;
}

export interface PreparedVersion {
  id: string;
  projectId: string;
  containerId: string;
  number: number;
  kind: FileKind;
}

export type SharedVersion = Omit<PreparedVersion, 'number'>;

/** `about`: the thing that a letter was sent of, which this one replies to. */
export interface Letter {
  about: { type: string; id: string } | null;
  subject: string;
  text: string;
}

/**
 * What a capability adds to the house. Earlier capabilities know nothing of later ones: what they have to ask of them, they ask
 * through this.
 */
export interface Capability {
  name: string;
  routes?(platform: Platform): Route[];
  /** What it speaks with other programs in their own words, beside the API of ours: addresses from the root. */
  standards?(platform: Platform): Route[];
  subjects?: readonly Subject[];
  jobs?(platform: Platform): readonly JobKind[];
  /** Jobs that hold processes of their own; `interrupt` ends these. */
  work?(platform: Platform): { kinds: JobKind[]; interrupt: () => void };
  longJobs?: readonly LongJobKind[];
  /** Selects of one column, `sha256`: the files that its tables name. */
  blobs?: readonly SQL[];
  /** Hands on what somebody who leaves has open; how much of what, as it is told afterwards. */
  passOn?(unit: Change, leaving: Leaving): Promise<Record<string, number>>;
  /** Hands on what a team has. */
  passTeamOn?(unit: Change, leaving: TeamLeaving): Promise<void>;
  /** A version arrived that answers issues with these numbers. In the transaction in which it arrives. */
  answered?(unit: Change, by: Member, versionId: string, numbers: readonly number[]): Promise<void>;
  /** A version is ready: what lies on the one before it may go along. In the transaction that makes it so. */
  prepared?(unit: Change, version: PreparedVersion): Promise<void>;
  /** Versions were shared: others see them from now on. In the transaction that makes it so. */
  shared?(unit: Change, versions: readonly SharedVersion[]): Promise<void>;
  /** A model lies elsewhere for everyone: `by` brings what lay with it along. In the transaction that makes it so. */
  placed?(unit: Change, containerId: string, by: Placing): Promise<void>;
  /** A letter arrived, about one of its things or about a project as a whole; answers the link of what it became. Undefined: not for us. */
  received?(platform: Platform, from: Member, letter: Letter): Promise<string | undefined>;
  /** Loads, while nobody waits for it, what the start was spared. */
  warm?(): Promise<void>;
  /** What keeps versions from passing a gate that asks for it: a select of version_id and number. */
  blockers?(versionIds: SQL): SQL;
}

/** All capabilities in their order. */
export class Capabilities {
  constructor(readonly all: readonly Capability[]) {}

  get blobs(): SQL[] {
    return this.all.flatMap(({ blobs = [] }) => blobs);
  }

  async passOn(unit: Change, leaving: Leaving): Promise<Record<string, number>> {
    const counts: Record<string, number> = {};
    for (const { passOn } of this.all) Object.assign(counts, await passOn?.(unit, leaving));
    return counts;
  }

  async answered(unit: Change, by: Member, versionId: string, numbers: readonly number[]): Promise<void> {
    for (const { answered } of this.all) await answered?.(unit, by, versionId, numbers);
  }

  async prepared(unit: Change, version: PreparedVersion): Promise<void> {
    for (const { prepared } of this.all) await prepared?.(unit, version);
  }

  async shared(unit: Change, versions: readonly SharedVersion[]): Promise<void> {
    for (const { shared } of this.all) await shared?.(unit, versions);
  }

  async placed(unit: Change, containerId: string, by: Placing): Promise<void> {
    for (const { placed } of this.all) await placed?.(unit, containerId, by);
  }

  async warm(): Promise<void> {
    for (const { warm } of this.all) await warm?.();
  }

  async received(platform: Platform, from: Member, letter: Letter): Promise<string | undefined> {
    for (const { received } of this.all) {
      const link = await received?.(platform, from, letter);
      if (link !== undefined) return link;
    }
    return undefined;
  }

  async passTeamOn(unit: Change, leaving: TeamLeaving): Promise<void> {
    for (const { passTeamOn } of this.all) await passTeamOn?.(unit, leaving);
  }

  blockers(versionIds: SQL): SQL[] {
    return this.all.flatMap(({ blockers }) => blockers?.(versionIds) ?? []);
  }
}
