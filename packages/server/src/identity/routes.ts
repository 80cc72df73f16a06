import * as contract from '@kindred/contract/identity/identity';
import * as programContract from '@kindred/contract/identity/programs';
import { parse, stringifySetCookie } from 'cookie';
import type { Request, Response } from 'express';
import { route, type Route } from '../platform/http.ts';
import { ProblemError } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import * as accounts from './accounts.ts';
import { changeMailChoices, showMailChoices } from './mail-choices.ts';
import { changePreference, listPreferences } from './preferences.ts';
import * as notices from './notices.ts';
import * as ownDetails from './own-details.ts';
import { Provider, RETURN_PATH, type Leaving } from './provider.ts';
import { SESSION_COOKIE } from './secrets.ts';
import { beginSecondFactor, turnOffSecondFactor, turnOnSecondFactor } from './second-factor.ts';
import * as inbox from './inbox.ts';
import * as programs from './programs.ts';
import * as identity from './service.ts';

const deviceOf = (request: Request): string => request.headers['user-agent'] ?? '';

const LEAVING_COOKIE = 'ks_leaving';

function leavingIn(request: Request): Leaving | undefined {
  const kept = parse(request.headers.cookie ?? '')[LEAVING_COOKIE];
  if (!kept) return undefined;
  try {
    const { state, nonce, verifier, then } = JSON.parse(Buffer.from(kept, 'base64url').toString()) as Leaving;
    return { state: String(state), nonce: String(nonce), verifier: String(verifier), then: String(then) };
  } catch (error) {
    if (error instanceof SyntaxError) return undefined;
    throw error;
  }
}

/** A browser stands here, not a program: what is refused is told on the sign-in page. */
async function backToSignIn(response: Response, run: () => Promise<void>): Promise<void> {
  try {
    await run();
  } catch (error) {
    if (!(error instanceof ProblemError) || error.status === 404) throw error;
    response.redirect(`/sign-in?refused=${encodeURIComponent(error.detail)}`);
  }
}

export function identityRoutes(platform: Platform): Route[] {
  const secure = platform.config.publicUrl.startsWith('https:');
  const answer = (response: Response, { secret, expiresAt, session }: identity.OpenedSession) => {
    response.append(
      'Set-Cookie',
      stringifySetCookie({
        name: SESSION_COOKIE,
        value: secret,
        httpOnly: true,
        sameSite: 'strict',
        secure,
        path: '/',
        expires: expiresAt,
      }),
    );
    return session;
  };
  const provider = new Provider(platform);
  /** Kept by the browser alone, for as long as somebody may take at the provider; empty to forget it. */
  const keepLeaving = (response: Response, leaving?: Leaving) =>
    response.append(
      'Set-Cookie',
      stringifySetCookie({
        name: LEAVING_COOKIE,
        value: leaving ? Buffer.from(JSON.stringify(leaving)).toString('base64url') : '',
        httpOnly: true,
        // The provider's page sends the browser back: `strict` would keep it from coming along.
        sameSite: 'lax',
        secure,
        path: RETURN_PATH,
        maxAge: leaving ? 600 : 0,
      }),
    );
  return [
    route(contract.beginProviderSignIn, async ({ query, response }) => {
      await backToSignIn(response, async () => {
        const { address, leaving } = await provider.begin(query.then ?? '/');
        keepLeaving(response, leaving);
        response.redirect(address);
      });
    }),
    route(contract.finishProviderSignIn, async ({ request, response }) => {
      await backToSignIn(response, async () => {
        const leaving = leavingIn(request);
        keepLeaving(response);
        const query = request.originalUrl.split('?')[1] ?? '';
        const opened = await provider.finish(platform, leaving, query, deviceOf(request));
        answer(response, opened);
        response.redirect(/^\/(?![/\\])/.test(leaving!.then) ? leaving!.then : '/');
      });
    }),
    route(contract.showSignIn, () => identity.showSignIn(platform)),
    route(contract.signIn, async ({ body, request, response }) =>
      answer(response, await identity.signIn(platform, body, { address: request.ip ?? '', device: deviceOf(request) })),
    ),
    route(contract.signInAsDemo, async ({ body, request, response }) =>
      answer(response, await identity.signInAsDemo(platform, body.email, deviceOf(request))),
    ),
    route(contract.createFirstPerson, async ({ body, request, response }) =>
      answer(
        response,
        await identity.createFirstPerson(platform, body.name, body.email, body.password, deviceOf(request)),
      ),
    ),
    route(contract.acceptInvitation, async ({ body, request, response }) =>
      answer(response, await identity.acceptInvitation(platform, body.key, body.password, deviceOf(request))),
    ),
    route(contract.askForNewPassword, async ({ body }) => accounts.askForNewPassword(platform, body.email)),
    route(contract.chooseNewPassword, async ({ body, request, response }) => {
      const user = await accounts.chooseNewPassword(platform, body.key, body.password);
      return answer(response, await identity.openSession(platform, user, deviceOf(request)));
    }),
    route(contract.changePassword, ({ actor, body }) => accounts.changePassword(platform, actor, body)),
    route(contract.changeName, ({ actor, body }) => ownDetails.changeName(platform, actor, body.name)),
    route(contract.changeAddress, ({ actor, body }) => ownDetails.changeAddress(platform, actor, body)),
    route(contract.confirmAddress, ({ body }) => ownDetails.confirmAddress(platform, body.key)),
    route(contract.listSessions, ({ actor }) => accounts.listSessions(platform, actor)),
    route(contract.endSession, ({ actor, params }) => accounts.endSession(platform, actor, params.sessionId)),
    route(contract.endAllOthers, ({ actor }) => accounts.endAllOthers(platform, actor)),
    route(contract.beginSecondFactor, ({ actor }) => beginSecondFactor(platform, actor)),
    route(contract.turnOnSecondFactor, ({ actor, body }) => turnOnSecondFactor(platform, actor, body.code)),
    route(contract.turnOffSecondFactor, ({ actor, body }) => turnOffSecondFactor(platform, actor, body.password)),
    route(contract.showSession, async ({ actor }) => identity.sessionView(actor)),
    route(contract.signOut, async ({ actor, response }) => {
      await identity.signOut(platform, actor);
      // Nothing of theirs is left for whoever sits there next.
      response.setHeader('Clear-Site-Data', '"cache"');
      response.setHeader(
        'Set-Cookie',
        stringifySetCookie({
          name: SESSION_COOKIE,
          value: '',
          httpOnly: true,
          sameSite: 'strict',
          secure,
          path: '/',
          maxAge: 0,
        }),
      );
      return null;
    }),
    route(contract.listTokens, ({ actor }) => identity.listTokens(platform, actor)),
    route(contract.createToken, ({ actor, body }) => identity.createToken(platform, actor, body.name)),
    route(contract.deleteToken, async ({ actor, params }) => identity.deleteToken(platform, actor, params.tokenId!)),
    route(programContract.listPrograms, () => programs.listPrograms(platform)),
    route(programContract.addProgram, ({ actor, body }) => programs.addProgram(platform, actor, body)),
    route(programContract.removeProgram, ({ actor, params }) =>
      programs.removeProgram(platform, actor, params.programId!),
    ),
    route(programContract.letProgramIn, ({ actor, params, body }) =>
      programs.letProgramIn(platform, actor, params.programId!, body),
    ),
    route(contract.replyToMail, ({ actor, params, body }) =>
      inbox.replyToMail(platform, actor, Number(params.mailId), body.text),
    ),
    route(contract.writeToProject, ({ actor, body }) => inbox.writeToProject(platform, actor, body)),
    route(contract.listOutbox, ({ actor, query }) => identity.listOutbox(platform, actor, query)),
    route(contract.listPreferences, ({ actor }) => listPreferences(platform.db, actor.id)),
    route(contract.changePreference, ({ actor, body }) =>
      changePreference(platform.db, actor.id, body.key, body.value),
    ),
    route(contract.showMailChoices, ({ actor }) => showMailChoices(platform.db, actor.id)),
    route(contract.changeMailChoices, ({ actor, body }) => changeMailChoices(platform.db, actor.id, body)),
    route(contract.listNotices, ({ actor, query }) => notices.listNotices(platform, actor, query)),
    route(contract.readNotices, ({ actor, body }) => notices.readNotices(platform, actor, body.upTo)),
  ];
}
