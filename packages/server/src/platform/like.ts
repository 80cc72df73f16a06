/** Words that begin like those typed, all of them, for `to_tsquery('simple', …)`; empty where no word was typed. */
export const wordsBeginning = (typed: string): string =>
  typed
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .map((word) => `${word.toLowerCase()}:*`)
    .join(' & ');

/** Pattern of LIKE for texts that contain these words as they were typed. */
export const containing = (words: string): string => `%${words.replace(/[\\%_]/g, '\\$&')}%`;
