/** Everything related to a thing, gathered from the services of all capabilities. */
import type { Hit } from '@kindred/contract/portfolio/portfolio';
import { findSheets } from '../drawing/service.ts';
import { findIssues, issueRow, issuesOf } from '../issues/service.ts';
import { markupsOf } from '../markup/service.ts';
import { findPeople } from '../people/service.ts';
import type { Member } from '../platform/actor.ts';
import { notFound } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { findContainers } from '../register/entries.ts';
import { showContainer, visibleVersions } from '../register/lineage.ts';
import { reviewsOf, showReview } from '../review/service.ts';
import { showViewpoint, viewpointIfVisible, viewpointsOf } from '../scene/service.ts';
import { transmittalsOf, transmittalToDownload } from '../transmittal/service.ts';
import { allows, type Kind } from '@kindred/core/people/rights';

type Related = Hit & { at: string };
type Kin = { title: string; items: Related[] };
type Source = (platform: Platform, actor: Member, id: string) => Promise<Kin>;

const may = (actor: Member, kind: Kind): boolean => allows(actor.standing, { kind, action: 'see' });
const base = (actor: Member): string => `/projects/${actor.projectId}`;

/** What touches these versions: viewpoints, issues, reviews, transmittals. */
async function aroundVersions(
  { db }: Platform,
  actor: Member,
  versionIds: string[],
  containerIds: string[],
): Promise<Related[]> {
  const viewpoints = may(actor, 'scene') ? await viewpointsOf(db, actor, versionIds) : [];
  const issues = may(actor, 'issues')
    ? await issuesOf(
        db,
        actor.projectId,
        viewpoints.map(({ id }) => id),
        versionIds,
      )
    : [];
  const reviews = may(actor, 'review') ? await reviewsOf(db, actor, versionIds) : [];
  const transmittals = may(actor, 'transmittal') ? await transmittalsOf(db, actor, containerIds) : [];
  return [
    ...viewpoints.map((row) =>
      related('viewpoint', row.id, row.name, 'Viewpoint', `${base(actor)}/scene?viewpoint=${row.id}`, row.createdAt),
    ),
    ...issues.map((row) =>
      related(
        'issue',
        row.id,
        `${row.number} ${row.title}`,
        `Issue, ${row.status}`,
        `${base(actor)}/issues/${row.id}`,
        row.updatedAt,
      ),
    ),
    ...reviews.map((row) =>
      related(
        'review',
        row.id,
        `${row.number} ${row.title}`,
        `Review, ${row.code ?? row.status}`,
        `${base(actor)}/reviews/${row.id}`,
        row.finishedAt ?? row.startedAt,
      ),
    ),
    ...transmittals.map((row) =>
      related(
        'transmittal',
        row.id,
        `${row.number} ${row.title}`,
        'Transmittal',
        `${base(actor)}/transmittals/${row.id}`,
        row.sentAt,
      ),
    ),
  ];
}

function related(type: string, id: string, title: string, subtitle: string, link: string, at: Date | string): Related {
  return { type, id, title, subtitle, link, at: typeof at === 'string' ? at : at.toISOString() };
}

async function versionsAsKin(platform: Platform, actor: Member, versionIds: string[]): Promise<Related[]> {
  const versions = await visibleVersions(platform.db, actor, versionIds);
  return versions.map((version) =>
    related(
      'container',
      version.containerId,
      version.container.code,
      `${version.title} · version ${version.number}`,
      `${base(actor)}/containers/${version.containerId}`,
      version.deliveredAt,
    ),
  );
}

const SOURCES: Record<string, Source> = {
  async container(platform, actor, id) {
    const { container, versions } = await showContainer(platform, actor, id);
    const markups = may(actor, 'markup') ? await markupsOf(platform.db, actor, { containerId: id }) : [];
    const ids = versions.map((version) => version.id);
    return {
      title: container.code,
      items: [
        ...versions.map((version) =>
          related(
            'version',
            version.id,
            `Version ${version.number}${version.revision ? ` · ${version.revision}` : ''}`,
            `Delivered by ${version.deliveredBy.name}`,
            `${base(actor)}/containers/${id}?version=${version.number}`,
            version.deliveredAt,
          ),
        ),
        ...markups.map((markup) =>
          related(
            'markup',
            markup.id,
            markup.text || `Markup ${markup.number}`,
            `Markup, ${markup.draft ? 'draft' : markup.status}`,
            `${base(actor)}/sheets/${id}?page=${markup.page}&markup=${markup.id}`,
            markup.createdAt,
          ),
        ),
        ...(await aroundVersions(platform, actor, ids, [id])),
      ],
    };
  },
  async issue(platform, actor, id) {
    if (!may(actor, 'issues')) throw notFound('issue');
    const issue = await issueRow(platform.db, actor, id);
    const viewpoint = await viewpointIfVisible(platform, actor, issue.viewpointId);
    const versionIds = [...(viewpoint?.versionIds ?? []), ...(issue.placeVersionId ? [issue.placeVersionId] : [])];
    return {
      title: `Issue ${issue.number}`,
      items: [
        ...(viewpoint
          ? [
              related(
                'viewpoint',
                viewpoint.id,
                viewpoint.name,
                'Viewpoint',
                `${base(actor)}/scene?viewpoint=${viewpoint.id}`,
                viewpoint.createdAt,
              ),
            ]
          : []),
        ...(await versionsAsKin(platform, actor, versionIds)),
      ],
    };
  },
  async review(platform, actor, id) {
    if (!may(actor, 'review')) throw notFound('review');
    const { review } = await showReview(platform, actor, id);
    const versionIds = review.documents.map(({ versionId }) => versionId);
    const around = await aroundVersions(
      platform,
      actor,
      versionIds,
      review.documents.map(({ containerId }) => containerId),
    );
    return {
      title: `Review ${review.number}`,
      items: [...(await versionsAsKin(platform, actor, versionIds)), ...around.filter((item) => item.id !== id)],
    };
  },
  async transmittal(platform, actor, id) {
    if (!may(actor, 'transmittal')) throw notFound('transmittal');
    const { number, files } = await transmittalToDownload(platform, actor, id);
    return {
      title: `Transmittal ${number}`,
      items: await versionsAsKin(
        platform,
        actor,
        files.map(({ versionId }) => versionId),
      ),
    };
  },
  async viewpoint(platform, actor, id) {
    if (!may(actor, 'scene')) throw notFound('viewpoint');
    const viewpoint = await showViewpoint(platform, actor, id);
    const issues = may(actor, 'issues') ? await issuesOf(platform.db, actor.projectId, [id], []) : [];
    return {
      title: viewpoint.name,
      items: [
        ...issues.map((row) =>
          related(
            'issue',
            row.id,
            `${row.number} ${row.title}`,
            `Issue, ${row.status}`,
            `${base(actor)}/issues/${row.id}`,
            row.updatedAt,
          ),
        ),
        ...(await versionsAsKin(platform, actor, viewpoint.versionIds)),
      ],
    };
  },
  async markup(platform, actor, id) {
    const [markup] = may(actor, 'markup') ? await markupsOf(platform.db, actor, { markupId: id }) : [];
    if (!markup) throw notFound('markup');
    return { title: `Markup ${markup.number}`, items: await versionsAsKin(platform, actor, [markup.versionId]) };
  },
};

export async function kin(platform: Platform, actor: Member, type: string, id: string): Promise<Kin> {
  const { title, items } = await SOURCES[type]!(platform, actor, id);
  return { title, items: items.sort((a, b) => b.at.localeCompare(a.at)) };
}

/** Refuses where the actor may not see the thing: history tells nothing that the thing itself would not. */
export async function requireVisible(platform: Platform, actor: Member, type: string, id: string): Promise<void> {
  await SOURCES[type]!(platform, actor, id);
}

export async function jump({ db }: Platform, actor: Member, words: string): Promise<Hit[]> {
  const containers = may(actor, 'register') ? await findContainers(db, actor, words) : [];
  const sheets = may(actor, 'register') ? await findSheets(db, actor, words) : [];
  const issues = may(actor, 'issues') ? await findIssues(db, actor.projectId, words) : [];
  const people = may(actor, 'people') ? await findPeople(db, actor.projectId, words) : [];
  return [
    ...containers.map(({ containerId: id, code, title, atIntake }) => ({
      type: 'container',
      id,
      title: code,
      subtitle: atIntake ? `${title} (at the intake)` : title,
      link: `${base(actor)}/containers/${id}`,
    })),
    ...sheets.map(({ containerId, code, page, label }) => ({
      type: 'sheet',
      id: `${containerId}:${page}`,
      title: label,
      subtitle: code,
      link: `${base(actor)}/sheets/${containerId}?page=${page}`,
    })),
    ...issues.map(({ id, number, title, status }) => ({
      type: 'issue',
      id,
      title: `${number} ${title}`,
      subtitle: status,
      link: `${base(actor)}/issues/${id}`,
    })),
    ...people.map(({ id, name, party, email }) => ({
      type: 'person',
      id,
      title: name,
      subtitle: party ?? email,
      link: `${base(actor)}/people?person=${id}`,
    })),
  ];
}
