/** Plans are reviewed and sent; what was asked comes back. */
import * as people from '@kindred/contract/people/people';
import * as review from '@kindred/contract/review/review';
import * as transmittal from '@kindred/contract/transmittal/transmittal';
import { MODELS } from './station-files.ts';
import type { Teller } from './teller.ts';

export async function firstReviews(story: Teller): Promise<void> {
  story.day(55);
  const plans = ['ORP-TVA-ZZ-00-D-A-0101', 'ORP-TVA-CB-01-D-A-0102'];
  const id = await startReview(story, 'Plans P01, stage review', plans, 1, [
    ['callowby', 'marlowe-tait'],
    ['quistgard'],
  ]);
  story.day(52, 14);
  await finishReview(story, id, 'marlowe-tait', 'SEEN');
  await finishReview(story, id, 'callowby', 'AGAIN', [
    [
      plans[0]!,
      1,
      'Grid 4 and the pad foundations do not line up with the structural model: check the offset of 150 mm.',
    ],
    [plans[1]!, 1, 'Show the opening for the stair at +8.10, and which way it turns.'],
  ]);
  story.day(48);
  await story.as('tolvik').call(transmittal.sendTransmittal, {
    params: story.project,
    body: {
      title: 'Models and plans for coordination',
      reason: 'for coordination',
      message: 'First complete set. Please read the plans together with the structural model.',
      versionIds: [...MODELS.map(({ code }) => story.version(code, 1)), ...plans.map((code) => story.version(code, 1))],
      personIds: [story.personId('quistgard')],
      partyIds: [
        ...new Set(
          (await story.as('tolvik').call(people.listPeople, { params: story.project })).parties
            .filter(({ code }) => code === 'QMW')
            .map(({ id }) => id),
        ),
      ],
      recipientsSeeEachOther: true,
    },
  });
  story.day(47, 11);
  const {
    items: [sent],
  } = await story.as('dunmarrow').call(transmittal.listTransmittals, { params: story.project });
  const params = { ...story.project, transmittalId: sent!.id };
  await story.as('dunmarrow').call(transmittal.showTransmittal, { params });
  await story.as('dunmarrow').call(transmittal.acknowledgeTransmittal, { params });
  story.day(46);
  await story.as('okafield').call(transmittal.showTransmittal, { params });
}

export async function laterReviews(story: Teller): Promise<void> {
  const maren = story.as('tolvik');
  story.day(18);
  const sections = ['ORP-TVA-ZZ-ZZ-D-A-0201', 'ORP-TVA-ZZ-ZZ-D-A-0301'];
  const second = await startReview(story, 'Section and elevation P02', sections, 2, [['callowby']]);
  story.day(16, 15);
  await finishReview(story, second, 'callowby', 'GO-N', [[sections[0]!, 2, 'Give the level of the gantry rail.']]);
  for (const code of sections) await story.move('tolvik', code, 'publish');
  story.day(14);
  await startReview(story, 'Plans P02, second review', ['ORP-TVA-ZZ-00-D-A-0101', 'ORP-TVA-CB-01-D-A-0102'], 2, [
    ['callowby', 'ferreby'],
    ['quistgard'],
  ]);
  story.day(3);
  await startReview(story, 'Ventilation model before the ceiling is fixed', [MODELS[2]!.code], 3, [
    ['tolvik', 'marlowe-tait'],
  ]);
  story.day(2, 11);
  const { parties } = await maren.call(people.listPeople, { params: story.project });
  await maren.call(transmittal.sendTransmittal, {
    params: story.project,
    body: {
      title: 'Section and elevation, accepted',
      reason: 'for information',
      message: 'Released after review 2.',
      versionIds: sections.map((code) => story.version(code, 2)),
      personIds: [],
      partyIds: parties.filter(({ code }) => code === 'OHT' || code === 'QMW').map(({ id }) => id),
      recipientsSeeEachOther: false,
    },
  });
  story.day(1, 16);
  const {
    items: [sent],
  } = await story.as('dunmarrow').call(transmittal.listTransmittals, { params: story.project });
  await story.as('dunmarrow').call(transmittal.showTransmittal, {
    params: { ...story.project, transmittalId: sent!.id },
  });
  const zip = await fetch(`${story.address}/api/projects/${story.project.projectId}/transmittals/${sent!.id}/zip`, {
    headers: story.as('dunmarrow').headersForFiles(),
  });
  await zip.arrayBuffer();
}

async function startReview(
  story: Teller,
  title: string,
  codes: string[],
  version: number,
  reviewers: string[][],
): Promise<string> {
  const maren = story.as('tolvik');
  const { routes } = await maren.call(review.listReviewRoutes, { params: story.project });
  const route = routes.find(({ steps }) => steps.length === reviewers.length)!;
  const started = await maren.call(review.startReview, {
    params: story.project,
    body: {
      title,
      routeId: route.id,
      versionIds: codes.map((code) => story.version(code, version)),
      reviewers: reviewers.map((step) => step.map((name) => story.personId(name))),
    },
  });
  return started.id;
}

async function finishReview(
  story: Teller,
  reviewId: string,
  surname: string,
  code: string,
  comments: [code: string, version: number, text: string][] = [],
): Promise<void> {
  const params = { ...story.project, reviewId };
  for (const [container, version, text] of comments)
    await story.as(surname).call(review.commentReview, {
      params,
      body: { versionId: story.version(container, version), text },
    });
  await story.as(surname).call(review.finishReview, { params, body: { code } });
}
