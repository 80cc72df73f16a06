/** A viewpoint of a BCF file (visualization information, `*.bcfv`), of either version. */
import type {
  BcfBitmap,
  BcfCamera,
  BcfComponent,
  BcfNoteCode,
  BcfPoint,
  BcfSetupHints,
  BcfViewpoint,
} from './bcf-file.ts';
import { attribute, child, children, isTrue, textOf, type Xml } from './bcf-xml.ts';

export type Note = (code: BcfNoteCode, values?: Record<string, string | number>) => void;
type Seen = Omit<BcfViewpoint, 'guid' | 'index' | 'snapshot'>;

export const NOTHING_SEEN: Seen = {
  ...{ camera: null, selection: [], visibility: null, colours: [] },
  ...{ sections: [], lines: [], bitmaps: [] },
};

/** `entryOf`: the name of a file in the archive, from what the viewpoint calls it. */
export function readViewpoint(root: Xml, entryOf: (reference: string) => string | null, note: Note): Seen {
  const components = child(root, 'Components');
  return {
    camera: cameraOf(root, note),
    selection: componentsIn(child(components, 'Selection')),
    visibility: visibilityOf(components),
    colours: children(child(components, 'Coloring'), 'Color').map((colour) => ({
      colour: attribute(colour, 'Color') ?? '',
      // 3.0 has a list around them.
      components: [...componentsIn(colour), ...componentsIn(child(colour, 'Components'))],
    })),
    sections: pairs(child(root, 'ClippingPlanes'), 'ClippingPlane', ['Location', 'Direction'], note).map(
      ([location, direction]) => ({ location, direction }),
    ),
    lines: pairs(child(root, 'Lines'), 'Line', ['StartPoint', 'EndPoint'], note),
    bitmaps: bitmapsOf(root, entryOf, note),
  };
}

function cameraOf(root: Xml, note: Note): BcfCamera | null {
  const [perspective, orthogonal] = [child(root, 'PerspectiveCamera'), child(root, 'OrthogonalCamera')];
  if (perspective && orthogonal) note('two-cameras');
  const camera = perspective ?? orthogonal;
  const place = [
    pointOf(child(camera, 'CameraViewPoint')),
    pointOf(child(camera, 'CameraDirection')),
    pointOf(child(camera, 'CameraUpVector')),
  ];
  if (!camera) return null;
  const size = numberOf(textOf(camera, perspective ? 'FieldOfView' : 'ViewToWorldScale'));
  if (!place.every((point) => point !== null) || size === null) {
    note('not-a-number', { where: 'camera' });
    return null;
  }
  const [position, direction, up] = place as [BcfPoint, BcfPoint, BcfPoint];
  const aspectRatio = numberOf(textOf(camera, 'AspectRatio'));
  return {
    kind: perspective ? 'perspective' : 'orthogonal',
    ...{ position, direction, up },
    ...(perspective ? { fieldOfView: size } : { scale: size }),
    ...(aspectRatio !== null && { aspectRatio }),
  };
}

const componentsIn = (element: Xml | undefined): BcfComponent[] =>
  children(element, 'Component').map((one) => ({
    ifcGuid: attribute(one, 'IfcGuid'),
    originatingSystem: textOf(one, 'OriginatingSystem'),
    authoringToolId: textOf(one, 'AuthoringToolId'),
  }));

function visibilityOf(components: Xml | undefined): BcfViewpoint['visibility'] {
  const visibility = child(components, 'Visibility');
  // 2.1 has the hints beside, 3.0 within.
  const hints = child(visibility, 'ViewSetupHints') ?? child(components, 'ViewSetupHints');
  if (!visibility && !hints) return null;
  return {
    default: visibility ? isTrue(attribute(visibility, 'DefaultVisibility')) : true,
    exceptions: componentsIn(child(visibility, 'Exceptions')),
    hints: hints ? hintsOf(hints) : null,
  };
}
const hintsOf = (hints: Xml): BcfSetupHints => ({
  spaces: isTrue(attribute(hints, 'SpacesVisible')),
  spaceBoundaries: isTrue(attribute(hints, 'SpaceBoundariesVisible')),
  openings: isTrue(attribute(hints, 'OpeningsVisible')),
});

function pairs(
  list: Xml | undefined,
  name: string,
  [one, other]: readonly [string, string],
  note: Note,
): [BcfPoint, BcfPoint][] {
  return children(list, name).flatMap((element): [BcfPoint, BcfPoint][] => {
    const [a, b] = [pointOf(child(element, one)), pointOf(child(element, other))];
    if (a && b) return [[a, b]];
    note('not-a-number', { where: name });
    return [];
  });
}

function bitmapsOf(root: Xml, entryOf: (reference: string) => string | null, note: Note): BcfBitmap[] {
  // 2.1: <Bitmap><Bitmap>PNG</Bitmap>…, several of them; 3.0: <Bitmaps><Bitmap><Format>png</Format>…
  const list = child(root, 'Bitmaps');
  const all = list ? children(list, 'Bitmap') : children(root, 'Bitmap');
  return all.flatMap((element): BcfBitmap[] => {
    const [location, normal, up] = ['Location', 'Normal', 'Up'].map((name) => pointOf(child(element, name)));
    const height = numberOf(textOf(element, 'Height'));
    if (!location || !normal || !up || height === null) {
      note('not-a-number', { where: 'Bitmap' });
      return [];
    }
    const reference = textOf(element, 'Reference') ?? '';
    const format = (textOf(element, 'Format') ?? textOf(element, 'Bitmap') ?? '').toLowerCase();
    return [{ format, entry: entryOf(reference), reference, ...{ location, normal, up, height } }];
  });
}

/** Null where one of its numbers is none. */
function pointOf(element: Xml | undefined): BcfPoint | null {
  const numbers = ['X', 'Y', 'Z'].map((axis) => numberOf(textOf(element, axis)));
  return numbers.every((value) => value !== null) ? (numbers as BcfPoint) : null;
}
function numberOf(said: string | null): number | null {
  const value = said === null ? NaN : Number(said.trim());
  return Number.isFinite(value) ? value : null;
}
