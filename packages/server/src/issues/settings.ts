/** What a project decides about its issues: types with their rules, priorities, labels. */
import type { changeIssueSettings as operation, KeptIssueSettings } from '@kindred/contract/issues/settings';
import type { Body } from '@kindred/contract/platform/operation';
import { settingsProblem, STARTER_ISSUE_SETTINGS, type IssueSettings } from '@kindred/core/issues/settings';
import { issueSettingsProblem } from '@kindred/words/issues';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { conflict, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import type { TemplatePart } from '../portfolio/parts.ts';
import { issues, issueSettings } from './schema.ts';

/** A project that never decided otherwise has the first edition. */
async function kept(db: Db, projectId: string): Promise<{ settings: IssueSettings; edition: number }> {
  const [row] = await db.select().from(issueSettings).where(eq(issueSettings.projectId, projectId));
  return row ?? { settings: STARTER_ISSUE_SETTINGS, edition: 1 };
}

export const settingsOf = async (db: Db, projectId: string): Promise<IssueSettings> =>
  (await kept(db, projectId)).settings;

export async function showIssueSettings({ db }: { db: Db }, { projectId }: Member): Promise<KeptIssueSettings> {
  const { settings, edition } = await kept(db, projectId);
  const counted = async (value: ReturnType<typeof sql>, from = sql`${issues}`): Promise<Record<string, number>> => {
    const { rows } = await db.execute(
      sql`select ${value} as word, count(*)::int as n from ${from} where ${issues.projectId} = ${projectId} group by 1`,
    );
    return Object.fromEntries((rows as { word: string; n: number }[]).map(({ word, n }) => [word, n]));
  };
  return {
    settings,
    edition,
    used: {
      types: await counted(sql`${issues.type}`),
      priorities: await counted(sql`${issues.priority}`),
      labels: await counted(sql`label`, sql`${issues} cross join unnest(${issues.labels}) label`),
    },
  };
}

export const changeIssueSettings = (
  platform: Platform,
  actor: Member,
  { edition, settings, renamed = {} }: Body<typeof operation>,
): Promise<KeptIssueSettings> =>
  change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const { projectId } = actor;
    const problem = settingsProblem(settings);
    if (problem) throw refused(problem.code, `${issueSettingsProblem(problem)} Nothing was changed.`);
    const before = await kept(db, projectId);
    await db
      .insert(issueSettings)
      .values({ projectId, settings: before.settings, edition: before.edition })
      .onConflictDoNothing();
    const rows = await db
      .update(issueSettings)
      .set({ settings, edition: edition + 1 })
      .where(and(eq(issueSettings.projectId, projectId), eq(issueSettings.edition, edition)))
      .returning();
    if (!rows.length)
      throw conflict(
        'Someone else changed these settings meanwhile. Yours are still in the form; reload to see theirs, then save again.',
      );
    await rename(unit, projectId, renamed);
    await record({
      ...{ projectId, verb: 'issue settings changed', subjectType: 'project', subjectId: projectId },
      ...{ before: before.settings, after: { ...settings, renamed } },
    });
    return showIssueSettings({ db }, actor);
  });

/** Issues follow words that are called otherwise now, all at once, so that two names can be exchanged. */
async function rename({ db }: Change, projectId: string, renamed: NonNullable<Body<typeof operation>['renamed']>) {
  const own = eq(issues.projectId, projectId);
  for (const [column, words] of [
    [issues.type, renamed.types],
    [issues.priority, renamed.priorities],
  ] as const) {
    const from = Object.keys(words ?? {});
    if (from.length)
      await db
        .update(issues)
        .set({ [column.name]: sql`(${JSON.stringify(words)}::jsonb) ->> ${column}` })
        .where(and(own, inArray(column, from)));
  }
  const labels = renamed.labels ?? {};
  if (Object.keys(labels).length)
    await db
      .update(issues)
      .set({
        labels: sql`(select array_agg(coalesce((${JSON.stringify(labels)}::jsonb) ->> label, label)) from unnest(${issues.labels}) label)`,
      })
      .where(and(own, sql`${issues.labels} && ${sql.param(Object.keys(labels))}::text[]`));
}

export const issueTemplate: TemplatePart = {
  async add(db, { projectId }, { issues: settings }) {
    if (settings) await db.insert(issueSettings).values({ projectId, settings });
  },
  read: async ({ db }, { projectId }) => ({ issues: await settingsOf(db, projectId) }),
};
