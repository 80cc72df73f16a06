/** The one place that decides who may call what. */
import { allows } from '@kindred/core/people/rights';
import type { Access, AnyOperation } from '@kindred/contract/platform/operation';
import type { Request } from 'express';
import type { Caller, Member } from './caller.ts';
import { notAllowed, notFound, ProblemError } from './errors.ts';

/** What a request brings along to show who sends it. */
export interface Credentials {
  cookie?: string | undefined;
  authorization?: string | undefined;
}

/** Finds out who calls by one kind of credentials; undefined where it knows nobody by them. */
export type Identify = (credentials: Credentials, projectId: string | null) => Promise<Caller | undefined>;

const SAFE_METHODS = new Set(['GET', 'HEAD', 'OPTIONS']);

export class Gate {
  /** `ways`: asked in their order. `members`: what people are in one project, or in all of theirs. */
  constructor(
    private readonly ways: readonly Identify[],
    readonly members: (personIds: readonly string[], projectId?: string) => Promise<Member[]>,
  ) {}

  async identify(credentials: Credentials, projectId: string | null): Promise<Caller | undefined> {
    for (const identify of this.ways) {
      const caller = await identify(credentials, projectId);
      if (caller) return caller;
    }
    return undefined;
  }

  /** Outside a project its things do not exist (404); inside, a missing right is named (403). */
  async admit(request: Request, operation: Pick<AnyOperation, 'access' | 'guest'>): Promise<Caller | undefined> {
    const projectId = (request.params.projectId as string | undefined) ?? null;
    const { cookie, authorization } = request.headers;
    const caller = await this.identify({ cookie, authorization }, projectId);
    if (operation.access === 'public') return caller;
    if (!caller)
      throw new ProblemError(
        401,
        'sign-in-first',
        'Sign in first',
        'Your session has ended or was never begun. Sign in, then try again.',
      );
    requireOwnPage(caller, request);
    requireAccess(caller, operation);
    return caller;
  }
}

function requireOwnPage(caller: Caller, request: Request): void {
  const token = 'csrfToken' in caller && caller.csrfToken;
  if (token && !SAFE_METHODS.has(request.method) && request.headers['x-csrf-token'] !== token)
    throw new ProblemError(
      403,
      'csrf',
      'Not from our own page',
      'The request lacks the token of your session. Reload the page and try again.',
    );
}

/** Throws where the caller may not do this: 404 for things of a project that is not theirs, 403 for a missing right. */
export function requireAccess(
  caller: Caller,
  { access, guest }: { access: Access; guest?: AnyOperation['guest'] },
): void {
  if (access === 'public' || caller.kind === 'system') return;
  if (caller.kind === 'guest') {
    if (!guest || !caller.allowed.includes(guest))
      throw notAllowed('The link that you came by does not allow this. Ask whoever sent it to you.');
    return;
  }
  if (access === 'signed in') return;
  if (!('standing' in caller)) throw notFound('project');
  if (access === 'member') return;
  if (access === 'administrator') {
    if (!caller.standing.administrator) throw notAllowed('Only administrators of this project may do this.');
    return;
  }
  if (!allows(caller.standing, access))
    throw notAllowed(
      `None of your roles in this project has the right “${access.action}” for “${access.kind}”. Ask an administrator of the project.`,
    );
}
