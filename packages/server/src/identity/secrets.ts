import { createHash } from 'node:crypto';

export const SESSION_COOKIE = 'ks_session';
/** Secrets are kept as their SHA-256 alone. */
export const hashSecret = (secret: string): string => createHash('sha256').update(secret).digest('hex');
