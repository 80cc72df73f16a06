/** Issues as BCF files, for other programs. */
import { BCF_VERSIONS } from '@kindred/core/bcf/bcf-file';
import { Type } from '@sinclair/typebox';
import { IssueFilters } from '../issues/issues.ts';
import { LongJob } from '../platform/jobs.ts';
import { OneOf, operation } from '../platform/operation.ts';

export const startBcfExport = operation('startBcfExport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/bcf-export',
  summary: 'Write the issues that you see and that fit into a BCF file, with their viewpoints, pictures and comments',
  access: { kind: 'issues', action: 'see' },
  body: Type.Object(
    {
      version: OneOf(BCF_VERSIONS),
      ...IssueFilters,
    },
    { additionalProperties: false },
  ),
  response: LongJob,
});
