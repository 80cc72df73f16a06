/** Review routes and return codes of a template; their steps ask roles by name. */
import type { TemplatePart } from '../portfolio/parts.ts';
import { returnCodes, reviewRoutes } from './schema.ts';
import { listReviewRoutes } from './service.ts';

export const reviewTemplate: TemplatePart = {
  async add(db, { projectId, ids }, { routes, returnCodes: codes }) {
    if (routes.length)
      await db.insert(reviewRoutes).values(
        routes.map(({ name, steps }) => ({
          projectId,
          name,
          steps: steps.map(({ role, ...step }) => ({ ...step, roleId: ids.roles.get(role) ?? null })),
        })),
      );
    if (codes.length) await db.insert(returnCodes).values(codes.map((code) => ({ ...code, projectId })));
  },
  async read(platform, { projectId }) {
    const { routes, codes } = await listReviewRoutes(platform, projectId);
    return {
      routes: routes.map(({ name, steps }) => ({
        name,
        steps: steps.map(({ name, days, roleName }) => ({ name, days, role: roleName })),
      })),
      returnCodes: codes.map(({ code, meaning, rules }) => ({
        code,
        meaning,
        rules: rules as Record<string, boolean>,
      })),
    };
  },
};
