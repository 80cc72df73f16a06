/** The fields of a title block, and what a value of each can be. */
import { isDate } from './title-block-words.ts';

export const TITLE_BLOCK_FIELDS = ['number', 'title', 'revision', 'status', 'scale', 'date'] as const;
export type FieldName = (typeof TITLE_BLOCK_FIELDS)[number];
export type TitleBlock = Record<FieldName, string>;

const REVISION = /^[A-Za-z]{0,3}[-.]?\d{0,3}(?:\.\d{1,2})?$/;
/** “3 of 12”, “3/12”: which of the sheets, not its number. */
const isSheetCount = (value: string): boolean =>
  /^\d{1,4} ?(?:\/|of|von|de|di|da|z|van|af|av|sur|\/) ?\d{1,4}$/i.test(value);
const isScale = (value: string): boolean =>
  /\b1 ?[:/] ?\d|\d ?(?:"|″|in).*=|^(?:nts|n\.t\.s\.?|not to scale|as (?:shown|noted|indicated)|varies|ohne|unmaßstäblich|-)/i.test(
    value,
  );

export const CHECKS: Record<FieldName, (value: string) => boolean> = {
  number: (value) =>
    /\d/.test(value) &&
    value.length <= 60 &&
    value.split(' ').length <= 6 &&
    !/^\d+\s*:\s*\d+/.test(value) &&
    !/[\\]/.test(value) &&
    !isDate(value) &&
    !isSheetCount(value),
  title: (value) => /\p{L}{2}/u.test(value) && !isDate(value),
  revision: (value) => value.length > 0 && value.length <= 8 && REVISION.test(value) && /[A-Za-z0-9]/.test(value),
  status: (value) =>
    value.length > 0 && value.length <= 60 && !isDate(value) && !isScale(value) && !isSheetCount(value),
  scale: isScale,
  date: isDate,
};
