/** Pattern of LIKE for texts that contain these words as they were typed. */
export const containing = (words: string): string => `%${words.replace(/[\\%_]/g, '\\$&')}%`;
