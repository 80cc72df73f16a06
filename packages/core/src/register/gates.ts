import type { ContainerAction, ContainerState } from './states.ts';

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
export type Gates = Record<ContainerAction, Gate>;

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

/** Why a version may not pass, a sentence each; empty when it may. */
export function gateProblems(gate: Gate, candidate: Candidate): string[] {
  const problems: string[] = [];
  if (gate.conformingName && !candidate.conforms) problems.push('its name does not conform');
  if (gate.prepared && !candidate.prepared) problems.push('its preparation has not ended well');
  if (gate.noBlockingIssue && candidate.blockingIssues.length)
    problems.push(`blocking issue ${candidate.blockingIssues.join(', ')} is open on it`);
  if (gate.statuses.length && !gate.statuses.includes(candidate.status))
    problems.push(
      `its status ${candidate.status ? `“${candidate.status}”` : '(none)'} does not fit; what fits: ${gate.statuses.join(', ')}`,
    );
  return problems;
}
