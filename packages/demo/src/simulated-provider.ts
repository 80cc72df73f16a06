/** A stand-in for an OpenID Connect provider: it vouches for whoever `next` names, without asking them. For tests and trials alone. */
import { createHash, createSign, generateKeyPairSync, randomBytes } from 'node:crypto';
import http from 'node:http';
import type { AddressInfo } from 'node:net';

export interface Vouched {
  sub: string;
  email?: string;
  email_verified?: boolean;
  name?: string;
  /** Says another nonce than it was asked with, as a replayed answer would. */
  wrongNonce?: boolean;
}
interface Code {
  person: Vouched;
  nonce: string;
  challenge: string;
  redirect: string;
}

const part = (value: object): string => Buffer.from(JSON.stringify(value)).toString('base64url');

export async function startSimulatedProvider(clientId: string, clientSecret: string) {
  const { privateKey, publicKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const codes = new Map<string, Code>();
  const state = { next: { sub: 'nobody' } as Vouched };
  let issuer = '';

  function idToken({ person, nonce }: Code): string {
    const { wrongNonce, ...claims } = person;
    const now = Math.floor(Date.now() / 1000);
    const said = {
      ...claims,
      iss: issuer,
      aud: clientId,
      iat: now,
      exp: now + 300,
      nonce: wrongNonce ? 'other' : nonce,
    };
    const text = `${part({ alg: 'RS256', kid: 'one' })}.${part(said)}`;
    return `${text}.${createSign('sha256').update(text).sign(privateKey, 'base64url')}`;
  }

  function authorize(asked: URLSearchParams): string {
    const code = randomBytes(12).toString('hex');
    const redirect = asked.get('redirect_uri')!;
    codes.set(code, {
      person: state.next,
      nonce: asked.get('nonce')!,
      challenge: asked.get('code_challenge')!,
      redirect,
    });
    return `${redirect}?${new URLSearchParams({ code, state: asked.get('state')!, iss: issuer, session_state: 'x' })}`;
  }

  function token(asked: URLSearchParams, authorization = ''): object | undefined {
    const code = codes.get(asked.get('code') ?? '');
    codes.delete(asked.get('code') ?? '');
    const [id, secret] = authorization.startsWith('Basic ')
      ? Buffer.from(authorization.slice(6), 'base64').toString().split(':')
      : [asked.get('client_id'), asked.get('client_secret')];
    const proof = createHash('sha256')
      .update(asked.get('code_verifier') ?? '')
      .digest('base64url');
    const right = id === clientId && secret === clientSecret && code && proof === code.challenge;
    if (!right || asked.get('redirect_uri') !== code.redirect) return undefined;
    return { access_token: 'unused', token_type: 'Bearer', expires_in: 300, id_token: idToken(code) };
  }

  const server = http.createServer((request, response) => {
    const json = (value: object, status = 200): void => {
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
    };
    const url = new URL(request.url!, issuer);
    if (url.pathname === '/.well-known/openid-configuration')
      return json({
        issuer,
        authorization_endpoint: `${issuer}/authorize`,
        token_endpoint: `${issuer}/token`,
        jwks_uri: `${issuer}/keys`,
        response_types_supported: ['code'],
        subject_types_supported: ['public'],
        id_token_signing_alg_values_supported: ['RS256'],
        authorization_response_iss_parameter_supported: true,
      });
    if (url.pathname === '/keys')
      return json({ keys: [{ ...publicKey.export({ format: 'jwk' }), kid: 'one', alg: 'RS256', use: 'sig' }] });
    if (url.pathname === '/authorize')
      return void response.writeHead(302, { location: authorize(url.searchParams) }).end();
    let body = '';
    request.on('data', (text) => (body += text));
    request.on('end', () => {
      const answer = token(new URLSearchParams(body), request.headers.authorization);
      json(answer ?? { error: 'invalid_grant' }, answer ? 200 : 400);
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    issuer,
    /** Whoever comes next is this person. */
    vouchFor: (person: Vouched): void => void (state.next = person),
    close: () => new Promise((resolve) => server.close(resolve)),
  };
}
