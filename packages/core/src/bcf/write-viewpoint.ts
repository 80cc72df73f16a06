/** A viewpoint as visualization information (`*.bcfv`) of either version. */
import type { BcfBitmap, BcfCamera, BcfComponent, BcfPoint, BcfVersion, BcfViewpoint } from './bcf-file.ts';
import type { Note } from './read-viewpoint.ts';
import type { Written } from './write-xml.ts';

const IFC_GUID = /^[0-9A-Za-z_$]{22}$/;
const COLOUR = /^[0-9a-f]{6}(?:[0-9a-f]{2})?$/i;
/** Degrees that 2.1 allows. */
const [NARROWEST, WIDEST] = [45, 60];
const USUAL_RATIO = 4 / 3;
/** From above: what 3.0 wants where nobody looked from anywhere. */
const NO_CAMERA: BcfCamera = {
  ...{ kind: 'perspective', position: [0, 0, 0], direction: [0, 0, -1], up: [0, 1, 0] },
  fieldOfView: 60,
};

/** Whether there is more to say of it than its picture. */
export const isSeen = ({ camera, selection, visibility, colours, sections, lines, bitmaps }: BcfViewpoint): boolean =>
  camera !== null ||
  visibility !== null ||
  [selection, colours, sections, lines, bitmaps].some((list) => list.length > 0);

/** `bitmapName`: what a bitmap is called in the folder of the topic. */
export function viewpointXml(
  viewpoint: BcfViewpoint,
  guid: string,
  version: BcfVersion,
  bitmapName: (bitmap: BcfBitmap, number: number) => string,
  note: Note,
): Written {
  const isNew = version === '3.0';
  const { sections, lines, bitmaps } = viewpoint;
  const planes = sections.map(({ location, direction }) => ({
    Location: point(location),
    Direction: point(direction),
  }));
  const strokes = lines.map(([from, to]) => ({ StartPoint: point(from), EndPoint: point(to) }));
  const pictures = bitmaps.map((bitmap, i): Written => {
    const format = /jpe?g/.test(bitmap.format) ? 'jpg' : 'png';
    return {
      ...(isNew ? { Format: format } : { Bitmap: format.toUpperCase() }),
      Reference: bitmapName(bitmap, i + 1),
      ...{
        Location: point(bitmap.location),
        Normal: point(bitmap.normal),
        Up: point(bitmap.up),
        Height: bitmap.height,
      },
    };
  });
  return {
    VisualizationInfo: {
      '@Guid': guid,
      Components: componentsXml(viewpoint, version, note),
      ...cameraXml(viewpoint.camera, version, note),
      Lines: strokes.length ? { Line: strokes } : undefined,
      ClippingPlanes: planes.length ? { ClippingPlane: planes } : undefined,
      ...(isNew ? { Bitmaps: pictures.length ? { Bitmap: pictures } : undefined } : { Bitmap: pictures }),
    },
  };
}

function componentsXml(
  { selection, visibility, colours }: BcfViewpoint,
  version: BcfVersion,
  note: Note,
): Written | undefined {
  if (!selection.length && !visibility && !colours.length) return undefined;
  const isNew = version === '3.0';
  const hints = visibility?.hints && {
    ViewSetupHints: {
      '@SpacesVisible': visibility.hints.spaces,
      '@SpaceBoundariesVisible': visibility.hints.spaceBoundaries,
      '@OpeningsVisible': visibility.hints.openings,
    },
  };
  const exceptions = visibility?.exceptions ?? [];
  const known = colours.flatMap(({ colour, components }) => {
    if (!components.length) return [];
    const bare = colour.replace(/^#/, '');
    if (!isNew || COLOUR.test(bare)) return [{ colour: bare, components }];
    note('not-in-version', { field: 'Color', value: colour });
    return [];
  });
  return {
    ...(!isNew && hints),
    Selection: listed(selection),
    Visibility: {
      '@DefaultVisibility': visibility?.default ?? true,
      ...(isNew && hints),
      Exceptions: listed(exceptions),
    },
    Coloring: known.length
      ? {
          Color: known.map(({ colour, components }) => ({
            '@Color': colour,
            ...(isNew ? { Components: listed(components) } : listed(components)),
          })),
        }
      : undefined,
  };
}

const listed = (components: readonly BcfComponent[]): Written | undefined =>
  components.length ? { Component: components.map(componentXml) } : undefined;

/** An id that is no GlobalId is one of the program that wrote it. */
function componentXml({ ifcGuid, originatingSystem, authoringToolId }: BcfComponent): Written {
  const isGuid = ifcGuid !== null && IFC_GUID.test(ifcGuid);
  return {
    '@IfcGuid': isGuid ? ifcGuid : undefined,
    OriginatingSystem: originatingSystem ?? undefined,
    AuthoringToolId: authoringToolId ?? (isGuid ? undefined : (ifcGuid ?? undefined)),
  };
}

function cameraXml(camera: BcfCamera | null, version: BcfVersion, note: Note): Written {
  const isNew = version === '3.0';
  if (!camera && !isNew) return {};
  if (!camera) note('filled', { field: 'camera' });
  const { kind, position, direction, up, fieldOfView = 60, scale = 1, aspectRatio } = camera ?? NO_CAMERA;
  const place = { CameraViewPoint: point(position), CameraDirection: point(direction), CameraUpVector: point(up) };
  const ratio = isNew ? { AspectRatio: aspectRatio && aspectRatio > 0 ? aspectRatio : USUAL_RATIO } : {};
  if (kind === 'orthogonal') return { OrthogonalCamera: { ...place, ViewToWorldScale: scale, ...ratio } };
  const allowed = isNew ? fieldOfView : Math.min(WIDEST, Math.max(NARROWEST, fieldOfView));
  if (allowed !== fieldOfView) note('not-in-version', { field: 'FieldOfView', value: fieldOfView });
  return { PerspectiveCamera: { ...place, FieldOfView: allowed, ...ratio } };
}

const point = ([x, y, z]: BcfPoint): Written => ({ X: x, Y: y, Z: z });
