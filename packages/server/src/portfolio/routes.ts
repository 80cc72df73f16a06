import * as contract from '@kindred/contract/portfolio/portfolio';
import * as templateContract from '@kindred/contract/portfolio/templates';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { listHistory } from './history.ts';
import { jump, kin } from './kin.ts';
import * as portfolio from './service.ts';
import * as templates from './templates.ts';

export const portfolioRoutes = (platform: Platform): Route[] => [
  route(contract.listProjects, ({ actor }) => portfolio.listProjects(platform, actor)),
  route(contract.createProject, ({ actor, body }) => portfolio.createProject(platform, actor, body)),
  route(contract.showProject, ({ actor }) => portfolio.showProject(platform, actor)),
  route(contract.changeProject, ({ actor, body }) => portfolio.changeProject(platform, actor, body)),
  route(templateContract.listTemplates, ({ actor }) => templates.listTemplates(platform, actor)),
  route(templateContract.saveTemplate, ({ actor, body }) => templates.saveTemplate(platform, actor, body)),
  route(templateContract.removeTemplate, async ({ actor, params }) => {
    await templates.removeTemplate(platform, actor, params.templateId);
    return null;
  }),
  route(contract.jump, ({ actor, query }) => jump(platform, actor, query.q)),
  route(contract.kin, ({ actor, query }) => kin(platform, actor, query.type, query.id)),
  route(contract.listHistory, ({ actor, query }) => listHistory(platform, actor, query.type, query.id)),
];
