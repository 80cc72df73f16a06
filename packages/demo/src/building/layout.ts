/** Measures of the invented lifeboat station that several disciplines share. Metres. */
export const HALL = { x: 0, y: 0, length: 36, width: 14, eaves: 9.2, ridge: 13.7 - 4.2, bay: 6 };
export const CREW = { x: 36.4, y: 0, length: 24, width: 10, storeyHeight: 3.9 };
export const LEVEL = 4.2;

/** The stair of the crew building: two flights of twelve steps beside each other, with a landing at the far end. */
export const STAIR = {
  x: CREW.x + 15.9,
  y: CREW.y + 6,
  going: 0.28,
  rise: CREW.storeyHeight / 24,
  steps: 12,
  width: 1.2,
  gap: 0.1,
  landing: 0.84,
};
/** Of the opening in the floor above. */
export const STAIRWELL = {
  length: STAIR.going * STAIR.steps + STAIR.landing,
  width: STAIR.width * 2 + STAIR.gap,
};

/** What the authors of a later version changed: the story that comparisons will find. */
export interface Edition {
  /** Between the two that are shared lies one that says more and draws the same. */
  number: 1 | 1.5 | 2;
}
