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
    route(contract.listTokens, ({ actor }) => identity.listTokens(platform, actor)),
    route(contract.createToken, ({ actor, body }) => identity.createToken(platform, actor, body.name)),
    route(contract.deleteToken, async ({ actor, params }) => identity.deleteToken(platform, actor, params.tokenId!)),
    route(contract.listOutbox, ({ actor }) => identity.listOutbox(platform, actor)),
    route(contract.listNotices, ({ actor }) => identity.listNotices(platform, actor)),
    route(contract.readNotices, ({ actor, body }) => identity.readNotices(platform, actor, body.upTo)),
  ];
}
