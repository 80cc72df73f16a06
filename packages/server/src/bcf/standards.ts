/** The BCF API and the Foundation API, at the addresses of the standards. */
import { bcfApi, foundationApi } from '@kindred/contract/bcf/bcf-api';
import type { AnyOperation } from '@kindred/contract/platform/operation';
import { allows } from '@kindred/core/people/rights';
import { listProjects } from '../portfolio/projects.ts';
import { projectNamed } from '../portfolio/service.ts';
import type { Actor, Member } from '../platform/caller.ts';
import { route, type Call, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as topics from './api-topics.ts';
import { commentJson, componentsJson, topicJson, viewpointJson, visibilityJson } from './api-words.ts';

const VERSIONS = ['3.0', '2.1'];

/** Addresses that a program needs to be let in. */
const authOf = ({ config }: Platform) => ({
  oauth2_auth_url: `${config.publicUrl}/authorize`,
  oauth2_token_url: `${config.publicUrl}/oauth/token`,
  http_basic_supported: false,
  supported_oauth2_flows: ['authorization_code_grant'],
});
const userOf = ({ email, name }: Actor) => ({ id: email, name });

type Handle = (call: Omit<Call<AnyOperation>, 'actor'> & { actor: Member }) => Promise<unknown>;

export function standardRoutes(platform: Platform): Route[] {
  const { config } = platform;
  const bcfVersions = VERSIONS.map((version) => ({
    ...{
      api_id: 'bcf',
      version_id: version,
      detailed_version: `https://github.com/buildingSMART/BCF-API/tree/release_${version.replace('.', '_')}`,
    },
    api_base_url: `${config.publicUrl}/bcf/${version}`,
  }));
  const versions = {
    versions: [
      {
        api_id: 'foundation',
        version_id: '1.1',
        detailed_version: '',
        api_base_url: `${config.publicUrl}/foundation/1.1`,
      },
      ...bcfVersions,
    ],
  };
  const projectJson = (project: { id: string; name: string }, standing?: Member['standing']) => ({
    ...{ project_id: project.id, name: project.name },
    authorization: {
      project_actions: !standing || allows(standing, { kind: 'issues', action: 'add' }) ? ['createTopic'] : [],
    },
  });
  const at = (operation: AnyOperation, handle: Handle): Route => route(operation as never, handle as never);
  const created = (call: Pick<Call<AnyOperation>, 'response'>): void => void call.response.status(201);
  const topicId = ({ topicId: id }: Record<string, string>): string => id!.toLowerCase();
  return [
    at(foundationApi.versions, () => Promise.resolve(versions)),
    at(foundationApi.versionsOf, () => Promise.resolve(versions)),
    at(foundationApi.auth, () => Promise.resolve(authOf(platform))),
    at(foundationApi.currentUser, ({ actor }) => Promise.resolve(userOf(actor))),
    at(foundationApi.bcfVersions, () => Promise.resolve({ versions: bcfVersions })),
    at(foundationApi.bcfAuth, () => Promise.resolve(authOf(platform))),
    at(foundationApi.bcfUser, ({ actor }) => Promise.resolve(userOf(actor))),
    at(bcfApi.projects, async ({ actor }) => (await listProjects(platform, actor)).map((one) => projectJson(one))),
    at(bcfApi.project, async ({ actor }) =>
      projectJson(await projectNamed(platform.db, actor.projectId), actor.standing),
    ),
    at(bcfApi.extensions, ({ actor, params }) => topics.extensionsOf(platform, actor, params.version!)),
    // Before the topic with an id: these words are none.
    at(bcfApi.commentEvents, ({ actor, query }) => topics.listTopicEvents(platform, actor, query, { comments: true })),
    at(bcfApi.topicEvents, ({ actor, query }) => topics.listTopicEvents(platform, actor, query)),
    at(bcfApi.topics, async ({ actor, query }) => (await topics.listTopics(platform, actor, query)).map(topicJson)),
    at(bcfApi.addTopic, async (call) => {
      const topic = await topics.addTopic(platform, call.actor, call.body as never);
      created(call);
      return topicJson(topic);
    }),
    at(bcfApi.eventsOfTopic, ({ actor, params, query }) =>
      topics.listTopicEvents(platform, actor, query, { topicId: topicId(params) }),
    ),
    at(bcfApi.topic, async ({ actor, params }) => topicJson(await topics.showTopic(platform, actor, topicId(params)))),
    at(bcfApi.changeTopic, async ({ actor, params, body }) =>
      topicJson(await topics.changeTopic(platform, actor, topicId(params), body as never)),
    ),
    at(bcfApi.files, async ({ actor, params }) =>
      (await topics.showTopic(platform, actor, topicId(params))).header.map((file) => ({
        ...{ ifc_project: file.project, ifc_spatial_structure_element: file.spatialElement, file_name: file.fileName },
        ...{ reference: file.reference, file_date: file.date },
      })),
    ),
    at(bcfApi.documents, async ({ actor, params }) =>
      (await topics.showTopic(platform, actor, topicId(params))).documents.map(
        ({ guid, url, description, documentGuid }) => ({
          ...{ guid, url, description, document_guid: documentGuid },
        }),
      ),
    ),
    at(bcfApi.related, async ({ actor, params }) =>
      (await topics.showTopic(platform, actor, topicId(params))).related.map((guid) => ({ related_topic_guid: guid })),
    ),
    at(bcfApi.comments, async ({ actor, params, query }) =>
      (await topics.listComments(platform, actor, topicId(params), query)).map((one) =>
        commentJson(topicId(params), one),
      ),
    ),
    at(bcfApi.addComment, async (call) => {
      const id = topicId(call.params);
      const comment = await topics.addComment(platform, call.actor, id, call.body as never);
      created(call);
      return commentJson(id, comment);
    }),
    at(bcfApi.comment, async ({ actor, params }) =>
      commentJson(topicId(params), await topics.showComment(platform, actor, topicId(params), params.commentId!)),
    ),
    at(bcfApi.changeComment, async ({ actor, params, body }) => {
      const { comment } = body as { comment: string };
      const id = topicId(params);
      return commentJson(id, await topics.changeComment(platform, actor, id, params.commentId!, comment));
    }),
    at(bcfApi.removeComment, async ({ actor, params }) => {
      await topics.removeComment(platform, actor, topicId(params), params.commentId!);
      return {};
    }),
    at(bcfApi.viewpoints, async ({ actor, params }) =>
      (await topics.showTopic(platform, actor, topicId(params))).viewpoints.map(viewpointJson),
    ),
    at(bcfApi.addViewpoint, async (call) => {
      const viewpoint = await topics.addViewpoint(platform, call.actor, topicId(call.params), call.body as never);
      created(call);
      return viewpointJson(viewpoint);
    }),
    ...viewpointRoutes(platform, topicId, at),
  ];
}

/** What is asked of one viewpoint, each by itself. */
function viewpointRoutes(
  platform: Platform,
  topicId: (params: Record<string, string>) => string,
  at: (operation: AnyOperation, handle: Handle) => Route,
): Route[] {
  const seen = (actor: Member, params: Record<string, string>) =>
    topics.showViewpoint(platform, actor, topicId(params), params.viewpointId!);
  return [
    at(bcfApi.viewpoint, async ({ actor, params }) => viewpointJson(await seen(actor, params))),
    at(bcfApi.selection, async ({ actor, params }) => ({
      selection: componentsJson((await seen(actor, params)).selection),
    })),
    at(bcfApi.coloring, async ({ actor, params }) => ({
      coloring: (await seen(actor, params)).colours.map(({ colour, components }) => ({
        ...{ color: colour, components: componentsJson(components) },
      })),
    })),
    at(bcfApi.visibility, async ({ actor, params }) => visibilityJson(await seen(actor, params))),
    at(bcfApi.snapshot, ({ actor, params, response }) =>
      topics.sendSnapshot(platform, actor, topicId(params), params.viewpointId!, response),
    ),
  ];
}
