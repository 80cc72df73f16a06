import * as contract from '@kindred/contract/portfolio/portfolio';
import * as templateContract from '@kindred/contract/portfolio/templates';
import { notAllowed } from '../platform/errors.ts';
import { route, type Route } from '../platform/http.ts';
import { daily } from '../platform/rate-limit.ts';
import type { Platform } from '../platform/services.ts';
import { listProjects, showProject } from './projects.ts';
import * as portfolio from './service.ts';
import * as templates from './templates.ts';

export function portfolioRoutes(platform: Platform): Route[] {
  const { perDay, createProjects } = platform.config;
  const begun = daily(platform.pool, 'projects', perDay.projects);
  return [
    route(contract.listProjects, ({ actor }) => listProjects(platform, actor)),
    route(contract.showProject, ({ actor }) => showProject(platform, actor)),
    route(contract.createProject, async ({ actor, body }) => {
      if (createProjects === 'administrators' && !actor.installationAdministrator)
        throw notAllowed('Projects are begun by administrators of this installation. Ask one of them.');
      await begun(actor.id);
      return portfolio.createProject(platform, actor, body);
    }),
    route(contract.changeProject, ({ actor, body }) => portfolio.changeProject(platform, actor, body)),
    route(templateContract.listTemplates, ({ actor }) => templates.listTemplates(platform, actor)),
    route(templateContract.saveTemplate, ({ actor, body }) => templates.saveTemplate(platform, actor, body)),
    route(templateContract.removeTemplate, async ({ actor, params }) => {
      await templates.removeTemplate(platform, actor, params.templateId);
      return null;
    }),
  ];
}
