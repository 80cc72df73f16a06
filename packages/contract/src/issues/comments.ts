/** What is said about an issue. */
import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { UploadId } from '../register/uploads.ts';
import { Id, Moment, Nullable, operation, OptionalLine, Page, PageQuery } from '../platform/operation.ts';

export const IssueComment = Type.Object({
  id: Id(),
  author: Person,
  /** Who wrote it in another program; its author here brought it in. */
  writtenBy: Nullable(Type.String()),
  /** Empty where it was withdrawn. */
  text: Type.String(),
  at: Moment(),
  editedAt: Nullable(Moment()),
  withdrawnAt: Nullable(Moment()),
  /** It came by mail. */
  byMail: Type.Boolean(),
  pictures: Type.Array(Type.Object({ position: Type.Integer(), caption: Type.String() })),
  /** Versions of documents, of those that whoever asks may see. */
  documents: Type.Array(
    Type.Object({ containerId: Id(), versionId: Id(), code: Type.String(), versionNumber: Type.Integer() }),
  ),
});
export type IssueComment = Static<typeof IssueComment>;

const Text = Type.String({ minLength: 1, maxLength: 10_000, pattern: '\\S' });
export const listIssueComments = operation('listIssueComments', {
  method: 'get',
  path: '/projects/:projectId/issues/:issueId/comments',
  summary: 'What was said about an issue, the newest first',
  access: { kind: 'issues', action: 'see' },
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Page(IssueComment),
});
export const commentIssue = operation('commentIssue', {
  method: 'post',
  path: '/projects/:projectId/issues/:issueId/comments',
  summary: 'Comment on an issue; who is mentioned is told, and pictures and documents go along',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object(
    {
      text: Text,
      mentions: Type.Optional(Type.Array(Id(), { maxItems: 50, uniqueItems: true })),
      pictures: Type.Optional(
        Type.Array(Type.Object({ uploadId: UploadId, caption: OptionalLine(200) }, { additionalProperties: false }), {
          maxItems: 8,
        }),
      ),
      versionIds: Type.Optional(Type.Array(Id(), { maxItems: 20, uniqueItems: true })),
    },
    { additionalProperties: false },
  ),
  response: IssueComment,
});
export const changeIssueComment = operation('changeIssueComment', {
  method: 'patch',
  path: '/projects/:projectId/issues/:issueId/comments/:commentId',
  summary: 'Say it otherwise: what was there before stays to be read',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object({ text: Text }, { additionalProperties: false }),
  response: IssueComment,
});
export const withdrawIssueComment = operation('withdrawIssueComment', {
  method: 'delete',
  path: '/projects/:projectId/issues/:issueId/comments/:commentId',
  summary: 'Withdraw a comment of your own: that it was there stays, its words do not',
  access: { kind: 'issues', action: 'add' },
});
export const listCommentEditions = operation('listCommentEditions', {
  method: 'get',
  path: '/projects/:projectId/issues/:issueId/comments/:commentId/editions',
  summary: 'What a comment said before it was changed, the oldest first; nothing of one that was withdrawn',
  access: { kind: 'issues', action: 'see' },
  response: Type.Array(Type.Object({ text: Type.String(), at: Moment() })),
});
export const showCommentPicture = operation('showCommentPicture', {
  method: 'get',
  path: '/projects/:projectId/issues/:issueId/comments/:commentId/pictures/:position',
  summary: 'A picture that came with a comment',
  access: { kind: 'issues', action: 'see' },
  params: Type.Object({ position: Type.String({ pattern: '^[1-9][0-9]{0,2}$' }) }),
  binary: true,
});
