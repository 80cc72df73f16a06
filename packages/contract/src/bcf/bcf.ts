/** Issues as BCF files, for other programs. */
import { BCF_VERSIONS } from '@kindred/core/bcf/bcf-file';
import { ISSUE_STATUSES } from '@kindred/core/issues/states';
import { Type } from '@sinclair/typebox';
import { LongJob } from '../platform/jobs.ts';
import { Id, OneOf, operation } from '../platform/operation.ts';

export const startBcfExport = operation('startBcfExport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/bcf-export',
  summary: 'Write the issues that you see and that fit into a BCF file, with their viewpoints, pictures and comments',
  access: { kind: 'issues', action: 'see' },
  body: Type.Object(
    {
      version: OneOf(BCF_VERSIONS),
      /** As in the list of issues. */
      q: Type.Optional(Type.String({ maxLength: 100 })),
      status: Type.Optional(OneOf(ISSUE_STATUSES)),
      assigneeId: Type.Optional(Id()),
    },
    { additionalProperties: false },
  ),
  response: LongJob,
});
