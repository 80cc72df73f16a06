import * as contract from '@kindred/contract/clash/clashes';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { decideClashes, listClashes, listClashesOfIssue, listClashGroups } from './clashes.ts';
import { addClashRule, changeClashRule, listClashRules, removeClashRule } from './rules.ts';
import { cancelClashRun, listClashRuns, startClashRun } from './runs.ts';

export const clashRoutes = (platform: Platform): Route[] => [
  route(contract.listClashRules, ({ actor }) => listClashRules(platform, actor)),
  route(contract.addClashRule, ({ actor, body }) => addClashRule(platform, actor, body)),
  route(contract.changeClashRule, ({ actor, params, body }) => changeClashRule(platform, actor, params.ruleId!, body)),
  route(contract.removeClashRule, ({ actor, params }) => removeClashRule(platform, actor, params.ruleId!)),
  route(contract.startClashRun, ({ actor, params }) => startClashRun(platform, actor, params.ruleId!)),
  route(contract.cancelClashRun, ({ actor, params }) => cancelClashRun(platform, actor, params.ruleId!)),
  route(contract.listClashRuns, ({ actor, params, query }) => listClashRuns(platform, actor, params.ruleId!, query)),
  route(contract.listClashGroups, ({ actor, params }) => listClashGroups(platform, actor, params.ruleId!)),
  route(contract.listClashes, ({ actor, params, query }) => listClashes(platform, actor, params.ruleId!, query)),
  route(contract.decideClashes, ({ actor, params, body }) => decideClashes(platform, actor, params.ruleId!, body)),
  route(contract.listClashesOfIssue, ({ actor, params }) => listClashesOfIssue(platform, actor, params.issueId!)),
];
