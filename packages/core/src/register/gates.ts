import type { ContainerState, GatedAction } from './states.ts';

/** What has to hold before a version passes: one gate for each action that opens it to more people, or closes it. */
export interface Gate {
  /** The right in the register that it takes to pass the gate. */
  right: 'change' | 'manage';
  /** The code conforms to the convention that holds in its folder. */
  conformingName: boolean;
  /** Preparation has ended well. */
  prepared: boolean;
  /** No issue of priority “blocking” is open on the version. */
  noBlockingIssue: boolean;
  /** Status codes that fit the state which the gate leads to; any when empty. */
  statuses: string[];
}
export type Gates = Record<GatedAction, Gate>;

const OPEN: Gate = { right: 'change', conformingName: false, prepared: false, noBlockingIssue: false, statuses: [] };
export const STARTER_GATES: Gates = {
  share: { ...OPEN, conformingName: true },
  publish: { ...OPEN, conformingName: true, prepared: true, noBlockingIssue: true },
  archive: { ...OPEN },
  withdraw: { ...OPEN },
};

/** What is known of a version that stands before a gate. */
export interface Candidate {
  state: ContainerState;
  status: string;
  conforms: boolean;
  prepared: boolean;
  /** Numbers of the open issues of priority “blocking”. */
  blockingIssues: readonly number[];
}

export type GateProblem =
  | { code: 'name' }
  | { code: 'preparation' }
  | { code: 'blocking-issues'; numbers: readonly number[] }
  | { code: 'status'; status: string; fitting: readonly string[] };

/** Why a version may not pass; empty when it may, or where there is no gate. */
export function gateProblems(gate: Gate | undefined, candidate: Candidate): GateProblem[] {
  if (!gate) return [];
  const { status, blockingIssues } = candidate;
  const problems: GateProblem[] = [];
  if (gate.conformingName && !candidate.conforms) problems.push({ code: 'name' });
  if (gate.prepared && !candidate.prepared) problems.push({ code: 'preparation' });
  if (gate.noBlockingIssue && blockingIssues.length)
    problems.push({ code: 'blocking-issues', numbers: blockingIssues });
  if (gate.statuses.length && !gate.statuses.includes(status))
    problems.push({ code: 'status', status, fitting: gate.statuses });
  return problems;
}
