/** What a line-up shows of a model. */
export interface ShownPart {
  /** It is not in the line-up. */
  isLeftOut: boolean;
  /** Elevations of the levels, null for what stands on none; null for all of them. */
  levels: readonly (number | null)[] | null;
  /** GlobalIds. */
  hidden: readonly string[];
}
