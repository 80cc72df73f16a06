/** What people are told about; each of them chooses for each kind how mail comes. The bell always shows it. */
export const NOTICE_KINDS = [
  'issue',
  'watching',
  'mention',
  'markup',
  'review',
  'transmittal',
  'delivery',
  'reservation',
  'project',
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];
export const MAIL_WAYS = ['at once', 'daily', 'never'] as const;
export type MailWay = (typeof MAIL_WAYS)[number];
export type MailChoices = Record<NoticeKind, MailWay>;

export const STARTER_MAIL_CHOICES: MailChoices = {
  issue: 'at once',
  watching: 'daily',
  mention: 'at once',
  markup: 'daily',
  review: 'at once',
  transmittal: 'at once',
  delivery: 'daily',
  reservation: 'at once',
  project: 'at once',
};
