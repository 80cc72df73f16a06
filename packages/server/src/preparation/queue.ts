/** Queue of versions that wait to be prepared. */
export const PREPARE = 'prepare-version';
