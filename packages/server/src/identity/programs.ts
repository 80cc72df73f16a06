/** Programs that act in people's names: OAuth 2, code flow with PKCE (RFC 6749, 4.1; RFC 7636). */
import type {
  Program,
  addProgram as addOperation,
  letProgramIn as letInOperation,
} from '@kindred/contract/identity/programs';
import type { Body } from '@kindred/contract/platform/operation';
import { and, asc, eq, gt, sql } from 'drizzle-orm';
import express, { type Request, type RequestHandler, type Response } from 'express';
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Actor } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import { notAllowed, refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { tellOwner } from './account-mail.ts';
import { programCodes, programs, tokens } from './schema.ts';
import { hashSecret } from './secrets.ts';

const CODE_SECONDS = 120;
const ACCESS_SECONDS = 3600;
const REFRESH_DAYS = 60;
const newSecret = (): string => randomBytes(32).toString('base64url');
const after = (seconds: number): Date => new Date(now().getTime() + seconds * 1000);

type Row = typeof programs.$inferSelect;
const toProgram = ({ id, name, redirectUris, createdAt }: Row): Program => ({
  ...{ id, name, redirectUris, createdAt: createdAt.toISOString() },
});

export const listPrograms = async ({ db }: Platform): Promise<Program[]> =>
  (await db.select().from(programs).orderBy(asc(programs.name))).map(toProgram);

function requireAdministrator({ installationAdministrator }: Actor): void {
  if (!installationAdministrator)
    throw notAllowed('Programs are registered by administrators of this installation. Nothing was changed.');
}

export async function addProgram({ db }: Platform, actor: Actor, wanted: Body<typeof addOperation>) {
  requireAdministrator(actor);
  const secret = newSecret();
  const [row] = await db
    .insert(programs)
    .values({ ...wanted, secretHash: hashSecret(secret), createdAt: now() })
    .returning();
  return { program: toProgram(row!), secret };
}

export async function removeProgram({ db, live }: Platform, actor: Actor, programId: string): Promise<void> {
  requireAdministrator(actor);
  const ended = await db.select({ id: tokens.id }).from(tokens).where(eq(tokens.programId, programId));
  requireRow(await db.delete(programs).where(eq(programs.id, programId)).returning(), 'program');
  for (const { id } of ended) live.end(`token:${id}`);
}

export async function letProgramIn(
  platform: Platform,
  actor: Actor,
  programId: string,
  { redirectUri, state, codeChallenge }: Body<typeof letInOperation>,
): Promise<{ redirect: string }> {
  const { db } = platform;
  const program = requireRow(await db.select().from(programs).where(eq(programs.id, programId)), 'program');
  if (!program.redirectUris.includes(redirectUri))
    throw refused(
      'wrong-redirect',
      `${program.name} is not registered with the address that it wants to be led to. Nothing was given to it.`,
    );
  const code = newSecret();
  await db.insert(programCodes).values({
    ...{ hash: hashSecret(code), programId, userId: actor.id, redirectUri },
    ...{ challenge: codeChallenge ?? null, expiresAt: after(CODE_SECONDS) },
  });
  await tellOwner(platform, actor, `The program “${program.name}” was let in to act in your name.`);
  const redirect = new URL(redirectUri);
  redirect.searchParams.set('code', code);
  if (state !== undefined) redirect.searchParams.set('state', state);
  return { redirect: redirect.href };
}

/** As RFC 6749, 5.2 writes what is refused. */
class Refusal extends Error {
  constructor(
    readonly code: 'invalid_request' | 'invalid_client' | 'invalid_grant' | 'unsupported_grant_type',
    message: string,
  ) {
    super(message);
  }
}

const isSame = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** POST /oauth/token, with what the program sends as a form. */
export const tokenEndpoint = (platform: Platform): RequestHandler[] => [
  express.urlencoded({ extended: false, limit: '10kb' }),
  (request: Request, response: Response, next) => {
    void answer(platform, request)
      .then((body) => {
        response.setHeader('Cache-Control', 'no-store');
        response.json(body);
      })
      .catch((error: unknown) => {
        if (!(error instanceof Refusal)) return next(error);
        response.status(error.code === 'invalid_client' ? 401 : 400);
        response.json({ error: error.code, error_description: error.message });
      });
  },
];

async function answer({ db }: Platform, request: Request) {
  const sent = (request.body ?? {}) as Record<string, unknown>;
  const said = (name: string): string => (typeof sent[name] === 'string' ? sent[name] : '');
  const [id, secret] = credentialsOf(request, said);
  const [program] = /^[0-9a-f-]{36}$/.test(id) ? await db.select().from(programs).where(eq(programs.id, id)) : [];
  if (!program) throw new Refusal('invalid_client', 'This program is not registered here.');
  if (secret && !isSame(hashSecret(secret), program.secretHash))
    throw new Refusal('invalid_client', 'This is not the secret of the program.');
  switch (said('grant_type')) {
    case 'authorization_code': {
      // A code is taken once, whatever comes of it.
      const [code] = await db
        .delete(programCodes)
        .where(eq(programCodes.hash, hashSecret(said('code'))))
        .returning();
      const fits =
        code && code.programId === program.id && code.redirectUri === said('redirect_uri') && code.expiresAt > now();
      if (!fits) throw new Refusal('invalid_grant', 'The code is not one of these, was used, or is too old.');
      const verified =
        code.challenge !== null &&
        createHash('sha256').update(said('code_verifier')).digest('base64url') === code.challenge;
      if (code.challenge !== null ? !verified : !secret)
        throw new Refusal('invalid_grant', 'Neither the verifier of the code nor the secret of the program is right.');
      return give(db, program, code.userId);
    }
    case 'refresh_token': {
      const [old] = await db
        .delete(tokens)
        .where(
          and(
            eq(tokens.refreshHash, hashSecret(said('refresh_token'))),
            eq(tokens.programId, program.id),
            gt(tokens.refreshUntil, now()),
          ),
        )
        .returning();
      if (!old) throw new Refusal('invalid_grant', 'This token was used, or is too old. Ask the person again.');
      return give(db, program, old.userId);
    }
    default:
      throw new Refusal('unsupported_grant_type', 'Known here: authorization_code and refresh_token.');
  }
}

/** By HTTP Basic or in the form (RFC 6749, 2.3.1). */
function credentialsOf(request: Request, said: (name: string) => string): [id: string, secret: string] {
  const basic = /^Basic ([A-Za-z0-9+/=]+)$/.exec(request.headers.authorization ?? '')?.[1];
  if (!basic) return [said('client_id'), said('client_secret')];
  const [id = '', secret = ''] = Buffer.from(basic, 'base64').toString().split(':').map(decoded);
  return [id, secret];
}
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    throw new Refusal('invalid_request', 'The credentials cannot be read.');
  }
}

async function give(db: Platform['db'], program: Row, userId: string) {
  const [access, refresh] = [`ks_${newSecret()}`, `ksr_${newSecret()}`];
  await db.insert(tokens).values({
    ...{ userId, name: program.name, hash: hashSecret(access), createdAt: now(), programId: program.id },
    ...{
      expiresAt: after(ACCESS_SECONDS),
      refreshHash: hashSecret(refresh),
      refreshUntil: after(REFRESH_DAYS * 86_400),
    },
  });
  return { access_token: access, token_type: 'bearer', expires_in: ACCESS_SECONDS, refresh_token: refresh };
}

/** What nobody can use any more goes. */
export async function removeOldGrants({ db }: Pick<Platform, 'db'>): Promise<void> {
  await db.delete(programCodes).where(sql`${programCodes.expiresAt} < now()`);
  await db.delete(tokens).where(sql`${tokens.refreshUntil} < now()`);
}
