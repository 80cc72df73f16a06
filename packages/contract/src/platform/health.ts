import { Type } from '@sinclair/typebox';
import { operation } from './operation.ts';

export const health = operation('health', {
  method: 'get',
  path: '/health',
  summary: 'Whether the server, its database and its jobs are well; 503 while it is starting',
  access: 'public',
  response: Type.Object({
    status: Type.String(),
    version: Type.String(),
    database: Type.String(),
    jobs: Type.Object({ waiting: Type.Integer(), failed: Type.Integer() }),
  }),
});
