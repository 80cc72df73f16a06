/** Every operation of the API, by id. */
import type { AnyOperation } from './platform/operation.ts';
import * as bcf from './bcf/bcf.ts';
import * as clash from './clash/clashes.ts';
import * as compare from './compare/compare.ts';
import * as drawing from './drawing/drawing.ts';
import * as federation from './federation/federations.ts';
import * as identity from './identity/identity.ts';
import * as programs from './identity/programs.ts';
import * as issueComments from './issues/comments.ts';
import * as issueFigures from './issues/figures.ts';
import * as issues from './issues/issues.ts';
import * as issueReport from './issues/report.ts';
import * as issueSettings from './issues/settings.ts';
import * as issueTies from './issues/ties.ts';
import * as markupImport from './markup/import.ts';
import * as markup from './markup/markup.ts';
import * as stamps from './markup/stamps.ts';
import * as naming from './naming/naming.ts';
import * as people from './people/people.ts';
import * as health from './platform/health.ts';
import * as jobs from './platform/jobs.ts';
import * as portfolio from './portfolio/portfolio.ts';
import * as folders from './register/folders.ts';
import * as exchange from './register/exchange.ts';
import * as bin from './register/bin.ts';
import * as register from './register/register.ts';
import * as shareSets from './register/share-sets.ts';
import * as uploads from './register/uploads.ts';
import * as savedViews from './register/views.ts';
import * as insight from './insight/insight.ts';
import * as templates from './portfolio/templates.ts';
import * as review from './review/review.ts';
import * as plan from './plan/plan-links.ts';
import * as elementFilters from './scene/element-filters.ts';
import * as placings from './scene/placings.ts';
import * as scene from './scene/scene.ts';
import * as things from './things/things.ts';
import * as transmittal from './transmittal/transmittal.ts';

const capabilities = {
  platform: { ...health, ...jobs },
  identity: { ...identity, ...programs },
  things,
  portfolio: { ...portfolio, ...templates },
  people,
  naming,
  register: { ...register, ...bin, ...uploads, ...folders, ...savedViews, ...shareSets, ...exchange },
  drawing,
  markup,
  markupImport,
  stamps,
  scene: { ...scene, ...placings, ...elementFilters },
  federation,
  plan,
  issues: { ...issues, ...issueComments, ...issueTies, ...issueSettings, ...issueFigures, ...issueReport },
  compare,
  clash,
  bcf,
  review,
  transmittal,
  insight,
};

const isOperation = (value: unknown): value is AnyOperation =>
  typeof value === 'object' && value !== null && 'path' in value && 'access' in value;

export const operations: { capability: string; operation: AnyOperation }[] = Object.entries(capabilities).flatMap(
  ([capability, exports]) =>
    Object.values(exports)
      .filter(isOperation)
      .map((operation) => ({ capability, operation })),
);
