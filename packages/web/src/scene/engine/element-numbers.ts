/** Elements of all open models, each by one number: cheap to keep in sets, and to compare. */
const MOST_ROWS = 2 ** 24;

/** `slot`: of the model in the scene; `row`: of its element table. */
export const elementNumber = (slot: number, row: number): number => slot * MOST_ROWS + row;
export const slotOf = (element: number): number => Math.floor(element / MOST_ROWS);
export const rowOf = (element: number): number => element % MOST_ROWS;
