/** How callouts of a project are numbered, and what their tags look like. */

/** Within one sheet, or through all sheets of a version. */
export const CALLOUT_NUMBERING = ['sheet', 'set'] as const;
export type CalloutNumbering = (typeof CALLOUT_NUMBERING)[number];
export const CALLOUT_TAGS = ['flag', 'disc', 'lozenge'] as const;
export type CalloutTag = (typeof CALLOUT_TAGS)[number];
