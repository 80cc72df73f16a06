/** Lists that answer so many and no more: whoever shows them says so. */

/** The newest of what is related to a thing. */
export const MOST_RELATED = 500;
/** Values of a column, those with the most containers. */
export const MOST_GROUPS = 500;
