/** Queue of versions that wait to be prepared. */
export const PREPARE = 'prepare-version';
/** Makes the copy of a drawing in which others see what a share set chose. */
export const SHARE_COPY = 'share-copy';
/** Sends the letters that waited for the end of the day. */
export const DAILY_MAIL = 'daily-mail';
/** Removes what no version and no upload needs any more. */
export const CLEAN_UP = 'clean-up';
