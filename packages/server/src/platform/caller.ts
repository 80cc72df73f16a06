import type { Grid, Standing } from '@kindred/core/people/rights';
import type { Interval, Level } from '@kindred/core/register/folder-rights';
import type { WorkArea } from '@kindred/core/people/rights';
import type { GuestAct } from '@kindred/contract/platform/operation';

/** A person who has signed in, in no project. */
export interface Actor {
  kind: 'person' | 'member';
  id: string;
  name: string;
  email: string;
  initials: string;
  colour: string;
  installationAdministrator: boolean;
  /** Absent for tokens, which no browser sends by itself. */
  csrfToken: string | null;
  sessionId: string | null;
  /** Names the session or the token that they came by; what they hold open ends with it. Null where nobody asked. */
  credential: string | null;
}

/** What somebody is within the project that a request names: whoever sees or does anything there is one. */
interface InProject {
  id: string;
  name: string;
  projectId: string;
  teamId: string | null;
  standing: Standing;
  /** What folder permissions leave of the register's rights, by the numbers of the folder tree. */
  folders: { ceiling: Level; decided: Interval[] };
}

/** A person within the project that the request names. */
export interface Member extends Actor, InProject {
  kind: 'member';
  memberId: string;
  partyId: string | null;
  /** Stages that the person works in; null for all. */
  workAreas: WorkArea[] | null;
}

/** Somebody without an account, known by the name that they gave, who may do what a link allows. */
export interface Guest extends InProject {
  kind: 'guest';
  linkId: string;
  allowed: readonly GuestAct[];
}

/** Work that nobody asked for at this moment: preparation, upkeep. */
export interface System {
  kind: 'system';
  name: 'preparation' | 'comparison' | 'clashes' | 'upkeep';
}

/** Who calls. Whoever may call what is decided by the gate, for all of them alike. */
export type Caller = Actor | Member | Guest | System;

/** What a project lets a guest see at most; the link says of which things. */
export const guestStanding = (grid: Grid): Standing => ({ administrator: false, grids: [grid] });

export const system = (name: System['name']): System => ({ kind: 'system', name });
