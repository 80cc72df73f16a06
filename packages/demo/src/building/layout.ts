/** Measures of the invented lifeboat station that several disciplines share. Metres. */
export const HALL = { x: 0, y: 0, length: 36, width: 14, eaves: 9.2, ridge: 13.7 - 4.2, bay: 6 };
export const CREW = { x: 36.4, y: 0, length: 24, width: 10, storeyHeight: 3.9 };
export const LEVEL = 4.2;

/** What the authors of a later version changed: the story that comparisons will find. */
export interface Edition {
  number: 1 | 2;
}
