/** Topics, comments and viewpoints as the BCF API writes them. */
import type { ViewpointBody } from '@kindred/contract/bcf/bcf-api';
import type { BcfCamera, BcfComment, BcfComponent, BcfPoint, BcfTopic, BcfViewpoint } from '@kindred/core/bcf/bcf-file';
import type { Static } from '@sinclair/typebox';

const present = <T extends object>(value: T): Partial<T> =>
  Object.fromEntries(Object.entries(value).filter(([, one]) => one !== null && one !== undefined)) as Partial<T>;

export const TOPIC_ACTIONS = ['update', 'updateRelatedTopics', 'createComment', 'createViewpoint'];

export const topicJson = (topic: BcfTopic) =>
  present({
    guid: topic.guid,
    server_assigned_id: topic.assignedId,
    ...{ topic_type: topic.type, topic_status: topic.status, priority: topic.priority, title: topic.title },
    ...{ description: topic.description, stage: topic.stage, index: topic.index, labels: topic.labels },
    ...{ reference_links: topic.referenceLinks, assigned_to: topic.assignedTo, due_date: topic.due },
    ...{ creation_author: topic.author, creation_date: topic.created },
    ...{ modified_author: topic.modifiedAuthor, modified_date: topic.modified },
    authorization: { topic_actions: TOPIC_ACTIONS, topic_status: [] },
  });

export const commentJson = (topicGuid: string, comment: BcfComment) =>
  present({
    ...{ guid: comment.guid, topic_guid: topicGuid, date: comment.date, author: comment.author, comment: comment.text },
    ...{ viewpoint_guid: comment.viewpoint, modified_date: comment.modified, modified_author: comment.modifiedAuthor },
    authorization: { comment_actions: ['update'] },
  });

const point = ([x, y, z]: BcfPoint) => ({ x, y, z });
const triple = ({ x, y, z }: { x: number; y: number; z: number }): BcfPoint => [x, y, z];
const cameraJson = ({ position, direction, up, aspectRatio }: BcfCamera) => ({
  ...{ camera_view_point: point(position), camera_direction: point(direction), camera_up_vector: point(up) },
  aspect_ratio: aspectRatio ?? 4 / 3,
});
export const componentsJson = (components: readonly BcfComponent[]) =>
  components.map(({ ifcGuid, originatingSystem, authoringToolId }) =>
    present({ ifc_guid: ifcGuid, originating_system: originatingSystem, authoring_tool_id: authoringToolId }),
  );

export const viewpointJson = (viewpoint: BcfViewpoint) => {
  const { camera, lines, sections, snapshot, index, guid } = viewpoint;
  return present({
    ...{ guid, index },
    perspective_camera:
      camera?.kind === 'perspective' ? { ...cameraJson(camera), field_of_view: camera.fieldOfView ?? 60 } : null,
    orthogonal_camera:
      camera?.kind === 'orthogonal' ? { ...cameraJson(camera), view_to_world_scale: camera.scale ?? 1 } : null,
    lines: lines.map(([from, to]) => ({ start_point: point(from), end_point: point(to) })),
    clipping_planes: sections.map(({ location, direction }) => ({
      location: point(location),
      direction: point(direction),
    })),
    snapshot: snapshot ? { snapshot_type: 'png' } : null,
  });
};
export const visibilityJson = ({ visibility }: BcfViewpoint) => ({
  visibility: {
    default_visibility: visibility?.default ?? true,
    exceptions: componentsJson(visibility?.exceptions ?? []),
    view_setup_hints: {
      spaces_visible: visibility?.hints?.spaces ?? false,
      space_boundaries_visible: visibility?.hints?.spaceBoundaries ?? false,
      openings_visible: visibility?.hints?.openings ?? false,
    },
  },
});

type Sent = Static<typeof ViewpointBody>;
type SentComponents = NonNullable<NonNullable<Sent['components']>['selection']>;
const componentsFrom = (sent: SentComponents | null | undefined): BcfComponent[] =>
  (sent ?? []).map(({ ifc_guid, originating_system, authoring_tool_id }) => ({
    ifcGuid: ifc_guid ?? null,
    originatingSystem: originating_system ?? null,
    authoringToolId: authoring_tool_id ?? null,
  }));

function cameraFrom({ perspective_camera: seen, orthogonal_camera: flat }: Sent): BcfCamera | null {
  const camera = seen ?? flat;
  if (!camera) return null;
  const place = {
    position: triple(camera.camera_view_point),
    direction: triple(camera.camera_direction),
    up: triple(camera.camera_up_vector),
    ...(camera.aspect_ratio !== undefined && { aspectRatio: camera.aspect_ratio }),
  };
  return seen
    ? { kind: 'perspective', ...place, fieldOfView: seen.field_of_view }
    : { kind: 'orthogonal', ...place, scale: flat!.view_to_world_scale };
}

/** `snapshot`: the name under which its picture is kept. */
export const viewpointFrom = (sent: Sent, guid: string, snapshot: string | null): BcfViewpoint => ({
  ...{ guid, index: sent.index ?? null, camera: cameraFrom(sent), bitmaps: [], snapshot },
  selection: componentsFrom(sent.components?.selection),
  visibility: sent.components?.visibility
    ? {
        default: sent.components.visibility.default_visibility ?? false,
        exceptions: componentsFrom(sent.components.visibility.exceptions),
        hints: null,
      }
    : null,
  colours: (sent.components?.coloring ?? []).map(({ color, components }) => ({
    colour: color.replace(/^#/, ''),
    components: componentsFrom(components),
  })),
  sections: (sent.clipping_planes ?? []).map(({ location, direction }) => ({
    ...{ location: triple(location), direction: triple(direction) },
  })),
  lines: (sent.lines ?? []).map(({ start_point, end_point }): [BcfPoint, BcfPoint] => [
    triple(start_point),
    triple(end_point),
  ]),
});
