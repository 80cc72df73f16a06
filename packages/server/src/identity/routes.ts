import * as contract from '@kindred/contract/identity/identity';
import { stringifySetCookie } from 'cookie';
import type { Response } from 'express';
import { SESSION_COOKIE } from '../platform/actor.ts';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as identity from './service.ts';

export function identityRoutes(platform: Platform): Route[] {
  const secure = platform.config.publicUrl.startsWith('https:');
  const answer = (response: Response, { secret, expiresAt, session }: identity.OpenedSession) => {
    response.setHeader(
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
  return [
    route(contract.showSignIn, () => identity.showSignIn(platform)),
    route(contract.signIn, async ({ body, response }) =>
      answer(response, await identity.signIn(platform, body.email, body.password)),
    ),
    route(contract.signInAsDemo, async ({ body, response }) =>
      answer(response, await identity.signInAsDemo(platform, body.email)),
    ),
    route(contract.createFirstPerson, async ({ body, response }) =>
      answer(response, await identity.createFirstPerson(platform, body.name, body.email, body.password)),
    ),
    route(contract.acceptInvitation, async ({ body, response }) =>
      answer(response, await identity.acceptInvitation(platform, body.key, body.password)),
    ),
    route(contract.showSession, async ({ actor }) => identity.sessionView(actor)),
    route(contract.signOut, async ({ actor, response }) => {
      await identity.signOut(platform, actor);
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
    route(contract.listTokens, async ({ actor }) => (await identity.listTokens(platform, actor)) as never),
    route(contract.createToken, ({ actor, body }) => identity.createToken(platform, actor, body.name)),
    route(contract.deleteToken, async ({ actor, params }) => identity.deleteToken(platform, actor, params.tokenId!)),
    route(contract.listOutbox, async ({ actor }) => (await identity.listOutbox(platform, actor)) as never),
    route(contract.listNotices, async ({ actor }) => (await identity.listNotices(platform, actor)) as never),
    route(contract.readNotices, ({ actor, body }) => identity.readNotices(platform, actor, body.upTo)),
  ];
}
