/** The BCF API (buildingSMART, OpenCDE: Foundation 1.1, BCF 3.0 and 2.1), as far as other programs need it to stay in step. */
import { Type, type TObject, type TSchema } from '@sinclair/typebox';
import { Id, operation, type Access } from '../platform/operation.ts';

/** Fields that are not known are passed over, as the standard wants it. */
const text = (maxLength = 10_000) => Type.Optional(Type.Union([Type.String({ maxLength }), Type.Null()]));
const texts = () =>
  Type.Optional(Type.Union([Type.Array(Type.String({ maxLength: 2000 }), { maxItems: 200 }), Type.Null()]));
const Version = Type.String({ pattern: '^(?:2\\.1|3\\.0)$' });
const anything = Type.Unknown();
const point = () => Type.Object({ x: Type.Number(), y: Type.Number(), z: Type.Number() });

export const TopicBody = Type.Object({
  guid: Type.Optional(Type.Union([Id(), Type.Null()])),
  title: Type.String({ minLength: 1, maxLength: 1000, pattern: '\\S' }),
  topic_type: text(200),
  topic_status: text(200),
  priority: text(200),
  description: text(100_000),
  labels: texts(),
  assigned_to: text(200),
  due_date: text(40),
  stage: text(200),
  reference_links: texts(),
  index: Type.Optional(Type.Union([Type.Integer(), Type.Null()])),
});
export const CommentBody = Type.Object({
  guid: Type.Optional(Type.Union([Id(), Type.Null()])),
  comment: Type.String({ minLength: 1, maxLength: 10_000, pattern: '\\S' }),
  viewpoint_guid: text(60),
});
const Component = Type.Object({ ifc_guid: text(64), originating_system: text(200), authoring_tool_id: text(200) });
const Components = Type.Array(Component, { maxItems: 500_000 });
const Camera = {
  camera_view_point: point(),
  camera_direction: point(),
  camera_up_vector: point(),
};
export const ViewpointBody = Type.Object({
  guid: Type.Optional(Type.Union([Id(), Type.Null()])),
  index: Type.Optional(Type.Union([Type.Integer(), Type.Null()])),
  perspective_camera: Type.Optional(
    Type.Union([
      Type.Object({ ...Camera, field_of_view: Type.Number(), aspect_ratio: Type.Optional(Type.Number()) }),
      Type.Null(),
    ]),
  ),
  orthogonal_camera: Type.Optional(
    Type.Union([
      Type.Object({ ...Camera, view_to_world_scale: Type.Number(), aspect_ratio: Type.Optional(Type.Number()) }),
      Type.Null(),
    ]),
  ),
  lines: Type.Optional(
    Type.Union([
      Type.Array(Type.Object({ start_point: point(), end_point: point() }), { maxItems: 2000 }),
      Type.Null(),
    ]),
  ),
  clipping_planes: Type.Optional(
    Type.Union([Type.Array(Type.Object({ location: point(), direction: point() }), { maxItems: 200 }), Type.Null()]),
  ),
  components: Type.Optional(
    Type.Union([
      Type.Object({
        selection: Type.Optional(Type.Union([Components, Type.Null()])),
        coloring: Type.Optional(
          Type.Union([
            Type.Array(Type.Object({ color: Type.String({ maxLength: 10 }), components: Components }), {
              maxItems: 2000,
            }),
            Type.Null(),
          ]),
        ),
        visibility: Type.Optional(
          Type.Union([
            Type.Object({
              default_visibility: Type.Optional(Type.Boolean()),
              exceptions: Type.Optional(Type.Union([Components, Type.Null()])),
            }),
            Type.Null(),
          ]),
        ),
      }),
      Type.Null(),
    ]),
  ),
  snapshot: Type.Optional(
    Type.Union([
      Type.Object({
        snapshot_type: Type.String({ pattern: '^(?:png|jpg)$' }),
        snapshot_data: Type.String({ maxLength: 12_000_000, pattern: '^[A-Za-z0-9+/=\\s]*$' }),
      }),
      Type.Null(),
    ]),
  ),
});

const query = Type.Object(
  {
    $filter: Type.Optional(Type.String({ maxLength: 2000 })),
    $orderby: Type.Optional(Type.String({ maxLength: 200 })),
    $top: Type.Optional(Type.Integer({ minimum: 0, maximum: 500 })),
    $skip: Type.Optional(Type.Integer({ minimum: 0, maximum: 1_000_000 })),
  },
  { additionalProperties: false },
);

interface Of {
  access?: Access;
  query?: TObject;
  body?: TSchema;
  largestBody?: number;
  binary?: boolean;
}
const SEE = { kind: 'issues', action: 'see' } as const;
const ADD = { kind: 'issues', action: 'add' } as const;
const at = (method: 'get' | 'post' | 'put' | 'delete', path: string, summary: string, of: Of = {}) =>
  operation(`bcf ${method} ${path}`, {
    ...{ method, summary, path: `/bcf/:version${path}`, params: Type.Object({ version: Version }) },
    ...{ access: of.access ?? (method === 'get' ? SEE : ADD), response: anything },
    ...(of.query && { query: of.query }),
    ...(of.body && { body: of.body }),
    ...(of.largestBody && { largestBody: of.largestBody }),
    ...(of.binary && { binary: true }),
  });

const PROJECT = '/projects/:projectId';
const TOPIC = `${PROJECT}/topics/:topicId`;
export const bcfApi = {
  projects: at('get', '/projects', 'Projects that one is in', { access: 'signed in' }),
  project: at('get', PROJECT, 'A project, and what one may do in it', { access: 'member' }),
  extensions: at('get', `${PROJECT}/extensions`, 'Types, statuses, priorities, labels and people of a project'),
  topics: at('get', `${PROJECT}/topics`, 'Topics, filtered and ordered', { query }),
  topicEvents: at('get', `${PROJECT}/topics/events`, 'What happened to topics', { query }),
  commentEvents: at('get', `${PROJECT}/topics/comments/events`, 'What happened to comments', { query }),
  addTopic: at('post', `${PROJECT}/topics`, 'Raise a topic', { body: TopicBody, largestBody: 1_000_000 }),
  topic: at('get', TOPIC, 'A topic'),
  changeTopic: at('put', TOPIC, 'Change a topic', { body: TopicBody, largestBody: 1_000_000 }),
  eventsOfTopic: at('get', `${TOPIC}/events`, 'What happened to a topic', { query }),
  files: at('get', `${TOPIC}/files`, 'Models that a topic was raised on'),
  documents: at('get', `${TOPIC}/document_references`, 'Documents of a topic'),
  related: at('get', `${TOPIC}/related_topics`, 'Topics that a topic is related to'),
  comments: at('get', `${TOPIC}/comments`, 'Comments on a topic', { query }),
  addComment: at('post', `${TOPIC}/comments`, 'Comment on a topic', { body: CommentBody }),
  comment: at('get', `${TOPIC}/comments/:commentId`, 'A comment'),
  changeComment: at('put', `${TOPIC}/comments/:commentId`, 'Say it otherwise', { body: CommentBody }),
  removeComment: at('delete', `${TOPIC}/comments/:commentId`, 'Withdraw a comment'),
  viewpoints: at('get', `${TOPIC}/viewpoints`, 'Viewpoints of a topic'),
  addViewpoint: at('post', `${TOPIC}/viewpoints`, 'Add a viewpoint', { body: ViewpointBody, largestBody: 24_000_000 }),
  viewpoint: at('get', `${TOPIC}/viewpoints/:viewpointId`, 'A viewpoint'),
  selection: at('get', `${TOPIC}/viewpoints/:viewpointId/selection`, 'What is selected in a viewpoint'),
  coloring: at('get', `${TOPIC}/viewpoints/:viewpointId/coloring`, 'What is coloured in a viewpoint'),
  visibility: at('get', `${TOPIC}/viewpoints/:viewpointId/visibility`, 'What is shown in a viewpoint'),
  snapshot: at('get', `${TOPIC}/viewpoints/:viewpointId/snapshot`, 'The picture of a viewpoint', { binary: true }),
};

const foundation = (path: string, access: Access, summary: string) =>
  operation(`foundation ${path}`, { method: 'get', path, access, summary, response: anything });
export const foundationApi = {
  versions: foundation('/foundation/versions', 'public', 'Standards that are spoken here'),
  versionsOf: operation('foundation versions of', {
    ...{ method: 'get', path: '/foundation/:foundation/versions', access: 'public', response: anything },
    ...{
      summary: 'Standards that are spoken here',
      params: Type.Object({ foundation: Type.String({ pattern: '^1\\.[01]$' }) }),
    },
  }),
  auth: operation('foundation auth', {
    ...{ method: 'get', path: '/foundation/:foundation/auth', access: 'public', response: anything },
    ...{ summary: 'How to be let in', params: Type.Object({ foundation: Type.String({ pattern: '^1\\.[01]$' }) }) },
  }),
  currentUser: operation('foundation current user', {
    ...{ method: 'get', path: '/foundation/:foundation/current-user', access: 'signed in', response: anything },
    ...{ summary: 'Who one is', params: Type.Object({ foundation: Type.String({ pattern: '^1\\.[01]$' }) }) },
  }),
  bcfVersions: foundation('/bcf/version', 'public', 'Versions of BCF, as 2.1 asks for them'),
  bcfAuth: operation('bcf auth', {
    ...{ method: 'get', path: '/bcf/:version/auth', access: 'public', response: anything },
    ...{ summary: 'How to be let in, as 2.1 asks', params: Type.Object({ version: Version }) },
  }),
  bcfUser: operation('bcf current user', {
    ...{ method: 'get', path: '/bcf/:version/current-user', access: 'signed in', response: anything },
    ...{ summary: 'Who one is, as 2.1 asks', params: Type.Object({ version: Version }) },
  }),
};
