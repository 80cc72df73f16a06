/** Signing in by the OpenID Connect provider of the installation: authorization code flow with PKCE (RFC 7636), state and nonce. */
import { eq } from 'drizzle-orm';
import type { Configuration } from 'openid-client';
import type { Config } from '../platform/config.ts';
import { notFound, ProblemError } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { openSession, type OpenedSession } from './service.ts';
import { users } from './schema.ts';

type Settings = NonNullable<Config['provider']>;

/** What a browser keeps while it is at the provider; nobody else's answer fits it. */
export interface Leaving {
  state: string;
  nonce: string;
  verifier: string;
  /** Where to go in the application afterwards. */
  then: string;
}

export const RETURN_PATH = '/api/sign-in/provider/return';

export class Provider {
  private found: Promise<Configuration> | undefined;

  constructor(private readonly platform: Pick<Platform, 'config' | 'db' | 'log'>) {}

  private get settings(): Settings {
    const { provider } = this.platform.config;
    if (!provider) throw notFound('provider');
    return provider;
  }

  private get returnTo(): string {
    return `${this.platform.config.publicUrl}${RETURN_PATH}`;
  }

  /** What the provider says of itself; asked for with the first sign-in, and again where that failed. */
  private async configuration(): Promise<Configuration> {
    const { issuer, clientId, clientSecret } = this.settings;
    // Loaded where it is used: it would make every start slower.
    const { allowInsecureRequests, discovery } = await import('openid-client');
    const options = issuer.startsWith('http:') ? { execute: [allowInsecureRequests] } : {};
    this.found ??= discovery(new URL(issuer), clientId, clientSecret, undefined, options);
    try {
      return await this.found;
    } catch (error) {
      this.found = undefined;
      this.platform.log.warn({ err: error }, 'the OpenID Connect provider did not answer');
      throw unavailable();
    }
  }

  /** Address at the provider to go to, and what to keep until it sends back. */
  async begin(then: string): Promise<{ address: string; leaving: Leaving }> {
    const found = await this.configuration();
    const client = await import('openid-client');
    const [state, nonce, verifier] = [client.randomState(), client.randomNonce(), client.randomPKCECodeVerifier()];
    const address = client.buildAuthorizationUrl(found, {
      redirect_uri: this.returnTo,
      scope: 'openid email profile',
      state,
      nonce,
      code_challenge: await client.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
    });
    return { address: address.href, leaving: { state, nonce, verifier, then } };
  }

  /** Signs in whoever the provider vouches for; `query`: as it sent back. */
  async finish(
    platform: Platform,
    leaving: Leaving | undefined,
    query: string,
    device: string,
  ): Promise<OpenedSession> {
    const found = await this.configuration();
    if (!leaving) throw again();
    const { authorizationCodeGrant } = await import('openid-client');
    const claims = await authorizationCodeGrant(found, new URL(`${this.returnTo}?${query}`), {
      expectedState: leaving.state,
      expectedNonce: leaving.nonce,
      pkceCodeVerifier: leaving.verifier,
      idTokenExpected: true,
    }).then(
      (tokens) => tokens.claims()!,
      (error: unknown) => {
        this.platform.log.info({ err: error }, 'a sign-in by the provider was refused');
        throw again();
      },
    );
    const email = claims.email_verified === true && typeof claims.email === 'string' ? claims.email : undefined;
    return openSession(platform, await this.personOf(`${claims.iss} ${claims.sub}`, email), device);
  }

  /** Who was here by the provider before, else who was invited, or has an account, with the address that it vouches for. */
  private async personOf(subject: string, email: string | undefined): Promise<typeof users.$inferSelect> {
    const { db } = this.platform;
    const [known] = await db.select().from(users).where(eq(users.providerSubject, subject));
    if (known) return known;
    const [invited] = email ? await db.select().from(users).where(eq(users.email, email.toLowerCase())) : [];
    if (!invited) throw stranger(email);
    if (invited.providerSubject) throw otherAccount();
    const [user] = await db.update(users).set({ providerSubject: subject }).where(eq(users.id, invited.id)).returning();
    return user!;
  }
}

const unavailable = (): ProblemError =>
  new ProblemError(
    503,
    'provider-away',
    'Not reachable',
    'The accounts of your organisation cannot be reached. Try again in a while, or sign in with a password.',
  );
const again = (): ProblemError =>
  new ProblemError(401, 'not-vouched', 'Not signed in', 'That was not finished, or took too long. Begin once more.');
const stranger = (email: string | undefined): ProblemError =>
  new ProblemError(
    403,
    'not-invited',
    'Not signed in',
    email
      ? `Nobody here has the address ${email}. Ask whoever runs your project to invite you with it.`
      : 'Your organisation does not vouch for an address of yours. Ask whoever runs its accounts.',
  );
const otherAccount = (): ProblemError =>
  new ProblemError(
    403,
    'other-account',
    'Not signed in',
    'Another account of your organisation is tied to this address already. Ask whoever runs this installation.',
  );
