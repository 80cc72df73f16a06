/** Queues that the register fills; preparation empties them. */
export const PREPARE = 'prepare-version';
/** Makes the copy of a drawing in which others see what a share set chose. */
export const SHARE_COPY = 'share-copy';
