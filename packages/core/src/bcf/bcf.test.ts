import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { archiveOf, written } from './archive.fixture.ts';
import type { BcfCamera, BcfFile, BcfPoint, BcfTopic, BcfVersion, BcfViewpoint } from './bcf-file.ts';
import { guidFrom, guidOf } from './bcf-guid.ts';
import { readBcf } from './read-bcf.ts';

const TOPIC = '7f0d3f4c-6f0e-4a63-9d5a-0b8c2f7d1e01';
const VIEW = '2b1c4a90-1d5e-4f8b-8a44-5f2f0c9e7a02';
const PNG = Uint8Array.of(0x89, 0x50, 0x4e, 0x47);

/** As a program of the older version writes it, with things that one does not know. */
const OLD = {
  'bcf.version': '<?xml version="1.0"?><Version VersionId="2.1"><DetailedVersion>2.1 KUBUS</DetailedVersion></Version>',
  'project.bcfp':
    '<ProjectExtension><Project ProjectId="p1"><Name>Boat hall &amp; yard</Name></Project><ExtensionSchema/></ProjectExtension>',
  'plan.pdf': 'pdf',
  [`${TOPIC}/markup.bcf`]: `<?xml version="1.0" encoding="UTF-8"?>
<Markup xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance">
  <Header><File IfcProject="0YvctVUKr0kugbFTf53O9L" isExternal="false"><Filename>a.ifc</Filename><Date>2026-02-01T08:00:00</Date></File></Header>
  <Topic Guid="${TOPIC}" TopicType="Clash" TopicStatus="Open">
    <ReferenceLink>https://example.org/1</ReferenceLink><ReferenceLink>https://example.org/2</ReferenceLink>
    <Title>0012</Title><Priority>High</Priority><Index>3</Index><Labels>MEP</Labels><Labels>Level 1</Labels>
    <CreationDate>2026-02-01T08:00:00+01:00</CreationDate><CreationAuthor>ada@example.org</CreationAuthor>
    <AssignedTo>eve@example.org</AssignedTo><Description>Duct &lt;through&gt; beam &#8211; see &amp;c.</Description>
    <DocumentReference Guid="9d6c1a7e-55a0-4b1f-a7b5-6f1f3d2c8b03" isExternal="false"><ReferencedDocument>../plan.pdf</ReferencedDocument><Description>Plan</Description></DocumentReference>
    <DocumentReference isExternal="true"><ReferencedDocument>https://example.org/x.pdf</ReferencedDocument></DocumentReference>
    <RelatedTopic Guid="11111111-1111-4111-8111-111111111111"/>
    <Unheard Of="it">foreign</Unheard>
  </Topic>
  <Comment Guid="3c2d5ba1-2e6f-4a9c-9b55-6a3a1d0f8b04"><Date>2026-02-02T08:00:00Z</Date><Author>eve@example.org</Author><Comment>Lower it</Comment><Viewpoint Guid="${VIEW}"/></Comment>
  <Viewpoints Guid="${VIEW}"><Viewpoint>view.bcfv</Viewpoint><Snapshot>snap.png</Snapshot></Viewpoints>
</Markup>`,
  [`${TOPIC}/view.bcfv`]: `<VisualizationInfo Guid="${VIEW}">
  <Components><ViewSetupHints SpacesVisible="false" OpeningsVisible="true"/>
    <Selection><Component IfcGuid="1YvctVUKr0kugbFTf53O9L"/></Selection>
    <Visibility DefaultVisibility="true"><Exceptions><Component IfcGuid="2YvctVUKr0kugbFTf53O9L"/></Exceptions></Visibility>
    <Coloring><Color Color="FFFF0000"><Component IfcGuid="1YvctVUKr0kugbFTf53O9L"><AuthoringToolId>77</AuthoringToolId></Component></Color></Coloring></Components>
  <PerspectiveCamera><CameraViewPoint><X>1.5</X><Y>-2</Y><Z>3e1</Z></CameraViewPoint><CameraDirection><X>0</X><Y>1</Y><Z>0</Z></CameraDirection><CameraUpVector><X>0</X><Y>0</Y><Z>1</Z></CameraUpVector><FieldOfView>60</FieldOfView></PerspectiveCamera>
  <Lines><Line><StartPoint><X>0</X><Y>0</Y><Z>0</Z></StartPoint><EndPoint><X>1</X><Y>0</Y><Z>0</Z></EndPoint></Line></Lines>
  <ClippingPlanes><ClippingPlane><Location><X>0</X><Y>0</Y><Z>2</Z></Location><Direction><X>0</X><Y>0</Y><Z>1</Z></Direction></ClippingPlane></ClippingPlanes>
</VisualizationInfo>`,
  [`${TOPIC}/snap.png`]: PNG,
};

describe('a BCF file of version 2.1', () => {
  it('is read in its raw words, with what lies beside its topics', async () => {
    const { version, project, topics, notes } = await readBcf(archiveOf(OLD));
    expect([version, project, notes]).toEqual(['2.1', { id: 'p1', name: 'Boat hall & yard' }, []]);
    const [topic] = topics as [BcfTopic];
    expect(topic).toMatchObject({
      ...{ guid: TOPIC, title: '0012', type: 'Clash', status: 'Open', priority: 'High', index: 3 },
      ...{ labels: ['MEP', 'Level 1'], description: 'Duct <through> beam – see &c.', due: null },
      referenceLinks: ['https://example.org/1', 'https://example.org/2'],
      related: ['11111111-1111-4111-8111-111111111111'],
      comments: [{ text: 'Lower it', viewpoint: VIEW }],
    });
    expect(topic.documents).toMatchObject([
      { entry: 'plan.pdf', fileName: 'plan.pdf', description: 'Plan', url: null },
      { entry: null, url: 'https://example.org/x.pdf' },
    ]);
    expect(topic.viewpoints[0]).toMatchObject({
      guid: VIEW,
      snapshot: `${TOPIC}/snap.png`,
      camera: { kind: 'perspective', position: [1.5, -2, 30], direction: [0, 1, 0], fieldOfView: 60 },
      selection: [{ ifcGuid: '1YvctVUKr0kugbFTf53O9L' }],
      visibility: { default: true, exceptions: [{ ifcGuid: '2YvctVUKr0kugbFTf53O9L' }], hints: { openings: true } },
      colours: [{ colour: 'FFFF0000', components: [{ authoringToolId: '77' }] }],
      sections: [{ location: [0, 0, 2], direction: [0, 0, 1] }],
      lines: [
        [
          [0, 0, 0],
          [1, 0, 0],
        ],
      ],
    });
  });

  it('says the same in version 3.0, and back in 2.1', async () => {
    const from = archiveOf(OLD);
    const before = await readBcf(from);
    const { archive, notes, files } = await written(before, '3.0', from);
    // The document outside has no GUID of its own.
    expect(notes.map(({ code }) => code)).toEqual(['new-guid']);
    const extensions = new TextDecoder().decode(files['extensions.xml']);
    for (const word of ['Clash', 'Open', 'High', 'MEP', 'Level 1', 'ada@example.org', 'eve@example.org'])
      expect(extensions).toContain(`>${word}<`);
    const after = await readBcf(archive);
    expect(after).toMatchObject({ version: '3.0', notes: [] });
    const bare = ({ topics }: BcfFile) =>
      topics.map(({ documents, viewpoints, ...topic }) => ({
        ...topic,
        documents: documents.map(({ url, fileName, description }) => ({ url, fileName, description })),
        viewpoints: viewpoints.map(({ camera, ...seen }) => ({
          ...seen,
          snapshot: seen.snapshot !== null,
          camera: { ...camera, aspectRatio: 0 },
        })),
      }));
    const dated = (topics: ReturnType<typeof bare>) => topics.map((topic) => ({ ...topic, header: [] }));
    expect(dated(bare(after))).toEqual(dated(bare(before)));
    const again = await readBcf((await written(after, '2.1', archive)).archive);
    expect(dated(bare(again))).toEqual(dated(bare(before)));
    const [{ entry }] = again.topics[0]!.documents as unknown as [{ entry: string }];
    expect(entry).toBe(`${TOPIC}/plan.pdf`);
  });
});

describe('a BCF file that is not as it should be', () => {
  const markup = (guid: string, inside: string) => `<Markup><Topic Guid="${guid}">${inside}</Topic></Markup>`;
  const version = { 'bcf.version': '<Version VersionId="2.1"/>' };
  const read = (files: Record<string, string | Uint8Array>) => readBcf(archiveOf({ ...version, ...files }));

  it('loses no topic but the damaged one, and says so', async () => {
    const { topics, notes } = await read({
      'a/markup.bcf': markup(TOPIC, '<Title>Good</Title>'),
      'b/markup.bcf': '<Markup><Topic',
      'c/markup.bcf': '<!DOCTYPE Markup [<!ENTITY x "y">]><Markup/>',
      'd/markup.bcf': markup(TOPIC.toUpperCase(), '<Title>Twice</Title>'),
      'e/markup.bcf': markup('e', ''),
    });
    expect(topics.map(({ title }) => title)).toEqual(['Good', '']);
    expect(notes.map(({ code, values }) => [code, values.why])).toEqual([
      ['unreadable-topic', 'bcf-xml'],
      ['unreadable-topic', 'bcf-entities'],
      ['same-guid', undefined],
      ['no-title', undefined],
    ]);
  });

  it('is read without what is damaged beside its topics', async () => {
    const {
      version: said,
      topics,
      notes,
    } = await readBcf(
      archiveOf({
        ...{
          'bcf.version': 'oops',
          'project.bcfp': '<Project',
          'documents.xml': '',
          'extensions.xml': '<Extensions/>',
        },
        [`${TOPIC}/markup.bcf`]: markup(TOPIC, '<Title>T</Title>'),
      }),
    );
    expect([said, topics.length]).toEqual(['3.0', 1]);
    expect(notes.map(({ code, values }) => [code, values.name])).toEqual([
      ['unreadable-part', 'bcf.version'],
      ['unreadable-part', 'documents.xml'],
      ['unreadable-part', 'project.bcfp'],
    ]);
  });

  it('is read in UTF-16, with its mark and without it', async () => {
    const text = `<?xml version="1.0" encoding="UTF-16"?>${markup(TOPIC, '<Title>Träger</Title>')}`;
    const wide = (mark: string) => new Uint8Array(Buffer.from(mark + text, 'utf16le'));
    for (const mark of ['', '\ufeff'])
      expect((await read({ 'a/markup.bcf': wide(mark) })).topics[0]!.title).toBe('Träger');
  });

  it('may lie in a folder of its own', async () => {
    const {
      version: said,
      topics,
      project,
    } = await readBcf(
      archiveOf({
        'My issues/bcf.version': '<Version VersionId="3.0"/>',
        'My issues/project.bcfp': '<ProjectInfo><Project ProjectId="p"><Name>Yard</Name></Project></ProjectInfo>',
        [`My issues/${TOPIC}/markup.bcf`]: markup(TOPIC, '<Title>T</Title>'),
      }),
    );
    expect([said, topics.length, project?.name]).toEqual(['3.0', 1, 'Yard']);
  });

  it('names what it lacks, and touches nothing outside', async () => {
    const inside = `<Title>T</Title><DocumentReference isExternal="false"><ReferencedDocument>../../../etc/passwd</ReferencedDocument></DocumentReference>`;
    const views = `<Viewpoints Guid="${VIEW}"><Viewpoint>no.bcfv</Viewpoint><Snapshot>no.png</Snapshot></Viewpoints>`;
    const { topics, notes } = await read({
      'a/markup.bcf': `<Markup><Topic Guid="${TOPIC}">${inside}</Topic>${views}</Markup>`,
    });
    expect(notes.map(({ code }) => code).sort()).toEqual(['no-document', 'no-snapshot', 'no-viewpoint-file']);
    expect(topics[0]!.viewpoints[0]).toMatchObject({ camera: null, snapshot: null });
    await expect(readBcf(archiveOf({ 'a.txt': 'x' }))).rejects.toMatchObject({ code: 'bcf-no-file' });
  });

  it('gets what version 3.0 wants, and that is said', async () => {
    const { notes, archive } = await written(
      await read({
        'x/markup.bcf': `<Markup><Topic Guid="x"><Title>T</Title></Topic><Comment Guid="c"><Comment>Hm</Comment></Comment><Viewpoints Guid="v"><Snapshot>s.png</Snapshot></Viewpoints></Markup>`,
        'x/s.png': PNG,
      }),
      '3.0',
      archiveOf({ 'x/s.png': PNG }),
    );
    expect(new Set(notes.map(({ values }) => values.field ?? values.what))).toEqual(
      new Set([
        'topic',
        'comment',
        'viewpoint',
        'TopicType',
        'TopicStatus',
        'CreationDate',
        'CreationAuthor',
        'Comment/Date',
        'Comment/Author',
      ]),
    );
    const { topics } = await readBcf(archive);
    expect(topics).toMatchObject([
      { title: 'T', type: 'Undefined', comments: [{ text: 'Hm' }], viewpoints: [{ camera: null }] },
    ]);
    expect(guidFrom(topics[0]!.guid)).toBe(topics[0]!.guid);
  });
});

/** Controls cannot stand in XML, or mean something else there. */
const text = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 30 })
  .filter((said) => !/[\p{Cc}\u2028\ufffe\uffff]/u.test(said) && said.trim() !== '');
const word = text.map((said) => said.replace(/\s+/g, ' ').trim()).filter((said) => said !== '');
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: null });
const guid = fc.uuid();
const ifcGuid = fc.stringMatching(/^[0-3][0-9A-Za-z_$]{21}$/);
const number = fc.double({ min: -1e6, max: 1e6, noNaN: true }).map((value) => value + 0);
const point = fc.tuple(number, number, number) as fc.Arbitrary<BcfPoint>;
const date = fc.integer({ min: 0, max: 4e9 }).map((seconds) => new Date(seconds * 1000).toISOString());
const component = fc.record({ ifcGuid, originatingSystem: maybe(text), authoringToolId: maybe(text) });
const camera = (version: BcfVersion): fc.Arbitrary<BcfCamera> => {
  const place = { position: point, direction: point, up: point };
  const ratio = fc.double({ min: 0.1, max: 9, noNaN: true });
  const kinds: fc.Arbitrary<BcfCamera> = fc.oneof(
    fc.record({
      ...{ kind: fc.constant('perspective' as const), ...place },
      fieldOfView: fc.double({ min: 45, max: 60, noNaN: true }),
    }),
    fc.record({
      ...{ kind: fc.constant('orthogonal' as const), ...place },
      scale: fc.double({ min: 0.1, max: 1e4, noNaN: true }),
    }),
  );
  return version === '3.0' ? fc.tuple(kinds, ratio).map(([one, aspectRatio]) => ({ ...one, aspectRatio })) : kinds;
};
const viewpoint = (version: BcfVersion): fc.Arbitrary<BcfViewpoint> =>
  fc.record({
    ...{
      guid,
      index: maybe(fc.nat(99)),
      camera: camera(version),
      snapshot: fc.constant(null),
      bitmaps: fc.constant([]),
    },
    selection: fc.array(component, { maxLength: 3 }),
    visibility: fc.record({
      default: fc.boolean(),
      exceptions: fc.array(component, { maxLength: 3 }),
      hints: fc.record({ spaces: fc.boolean(), spaceBoundaries: fc.boolean(), openings: fc.boolean() }),
    }),
    colours: fc.array(
      fc.record({
        colour: fc.stringMatching(/^[0-9a-f]{8}$/),
        components: fc.array(component, { minLength: 1, maxLength: 2 }),
      }),
      { maxLength: 2 },
    ),
    sections: fc.array(fc.record({ location: point, direction: point }), { maxLength: 2 }),
    lines: fc.array(fc.tuple(point, point), { maxLength: 2 }),
  });
const topic = (version: BcfVersion): fc.Arbitrary<BcfTopic> =>
  fc.record({
    ...{ guid, assignedId: version === '3.0' ? maybe(word) : fc.constant(null), title: text, description: maybe(text) },
    ...{ type: word, status: word, priority: maybe(text), stage: maybe(text), index: maybe(fc.nat(999)) },
    ...{
      author: text,
      created: date,
      modifiedAuthor: maybe(text),
      modified: maybe(date),
      assignedTo: maybe(text),
      due: maybe(date),
    },
    ...{
      labels: fc.array(text, { maxLength: 3 }),
      referenceLinks: fc.array(text, { maxLength: 2 }),
      related: fc.array(guid, { maxLength: 2 }),
    },
    header: fc.array(
      fc.record({
        project: maybe(ifcGuid),
        spatialElement: maybe(ifcGuid),
        isExternal: fc.boolean(),
        fileName: maybe(text),
        date: maybe(date),
        reference: maybe(text),
      }),
      { maxLength: 2 },
    ),
    ...{ snippet: fc.constant(null), documents: fc.constant([]) },
    comments: fc.array(
      fc.record({
        guid,
        author: text,
        date,
        text,
        viewpoint: maybe(guid),
        modifiedAuthor: maybe(text),
        modified: maybe(date),
      }),
      { maxLength: 3 },
    ),
    viewpoints: fc.uniqueArray(viewpoint(version), { maxLength: 2, selector: (one) => one.guid }),
  });

it.each(['2.1', '3.0'] as const)('what is written in version %s is read as it was', async (version) => {
  const files = fc.record({
    version: fc.constant(version),
    project: maybe(fc.record({ id: guid, name: maybe(text) })),
    topics: fc.uniqueArray(topic(version), { maxLength: 3, selector: (one) => one.guid }),
    notes: fc.constant<BcfFile['notes']>([]),
  });
  await fc.assert(
    fc.asyncProperty(files, async (file: BcfFile) => {
      const { archive, notes } = await written(file, version);
      expect(notes).toEqual([]);
      expect(await readBcf(archive)).toEqual(file);
    }),
    { numRuns: 60 },
  );
});

it('makes the same GUID of the same words', () => {
  expect(guidOf('topic a')).toBe(guidOf('topic a'));
  expect(guidOf('topic a')).not.toBe(guidOf('topic b'));
  expect(guidFrom('{7F0D3F4C-6F0E-4A63-9D5A-0B8C2F7D1E01}')).toBe(TOPIC);
  expect(guidFrom(TOPIC.replaceAll('-', ''))).toBe(TOPIC);
  expect(guidFrom('x')).toBeNull();
});
