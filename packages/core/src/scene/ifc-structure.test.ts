import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readLengthUnit, readSpatialTree, readSurveyPosition, relatedBy, structureTypes } from './ifc-structure.ts';
import { indexStepFile } from './step-reader.ts';

const step = (data: string) =>
  indexStepFile(
    new TextEncoder().encode(
      `ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4X3'));\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`,
    ),
    () => true,
  );

describe('the length unit', () => {
  it('is what the file assigns, among its other units', () => {
    const si = (prefix: string) => `
      #1=IFCSIUNIT(*,.AREAUNIT.,$,.SQUARE_METRE.);
      #2=IFCSIUNIT(*,.LENGTHUNIT.,${prefix},.METRE.);
      #3=IFCUNITASSIGNMENT((#1,#2));`;
    expect(readLengthUnit(step(si('.MILLI.')))).toEqual({ name: 'millimetre', metres: 0.001, assumed: false });
    expect(readLengthUnit(step(si('$')))).toEqual({ name: 'metre', metres: 1, assumed: false });
  });

  it('may be converted from another', () => {
    const foot = `
      #1=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
      #2=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(304.8),#1);
      #3=IFCCONVERSIONBASEDUNIT(#9,.LENGTHUNIT.,'FOOT',#2);
      #4=IFCUNITASSIGNMENT((#3));`;
    const unit = readLengthUnit(step(foot));
    expect(unit.name).toBe('foot');
    expect(unit.metres).toBeCloseTo(0.3048, 12);
  });

  it('is a metre where the file names none', () => {
    expect(readLengthUnit(step('#1=IFCUNITASSIGNMENT((#7));'))).toEqual({ name: 'metre', metres: 1, assumed: true });
    expect(readLengthUnit(step('#1=IFCWALL();'))).toEqual({ name: 'metre', metres: 1, assumed: true });
  });
});

describe('the survey position', () => {
  it('has its angle from the direction of the x axis', () => {
    const data = `
      #1=IFCPROJECTEDCRS('A grid',$,$,$,$,$,$);
      #2=IFCMAPCONVERSION(#5,#1,452000.25,5912400.5,4.,0.,1.,1.);`;
    expect(readSurveyPosition(step(data), { name: 'metre', metres: 1, assumed: false })).toEqual({
      eastings: 452000.25,
      northings: 5912400.5,
      height: 4,
      rotation: 90,
      grid: 'A grid',
    });
    expect(readSurveyPosition(step('#1=IFCWALL();'), { name: 'metre', metres: 1, assumed: false })).toBeNull();
  });

  it('is written in the unit of the map, else in that of the file', () => {
    const data = (unit: string) => `
      #1=IFCPROJECTEDCRS('A grid',$,$,$,$,$,${unit});
      #2=IFCMAPCONVERSION(#5,#1,452000.,5912400.,4.,1.,0.,1.);
      #3=IFCSIUNIT(*,.LENGTHUNIT.,.KILO.,.METRE.);`;
    const millimetre = { name: 'millimetre', metres: 0.001, assumed: false };
    expect(readSurveyPosition(step(data('$')), millimetre)).toMatchObject({ eastings: 452, northings: 5912.4 });
    expect(readSurveyPosition(step(data('#3')), millimetre)).toMatchObject({ eastings: 452_000_000 });
  });
});

describe('the structure of what is no building', () => {
  it('is in the tree with its parts; what has no name has its long one, else its class', () => {
    const data = `
      #1=IFCPROJECT('p',$,'Coast',$,$,$,$,$,$);
      #2=IFCROAD('r',$,'Approach',$,$,$,$,$,.ELEMENT.,$);
      #3=IFCROADPART('q',$,$,$,$,$,$,'Bend',.ELEMENT.,$,$);
      #4=IFCBRIDGE('b',$,$,$,$,$,$,$,.ELEMENT.,$);
      #6=IFCRELAGGREGATES('a',$,$,$,#1,(#2,#4));
      #7=IFCRELAGGREGATES('a',$,$,$,#2,(#3));`;
    const { nodes } = readSpatialTree(step(data), { name: 'metre', metres: 1, assumed: false });
    expect(nodes.map(({ name, class: of, parent }) => [name, of, nodes[parent]?.name])).toEqual([
      ['Coast', 'IfcProject', undefined],
      ['Approach', 'IfcRoad', 'Coast'],
      ['Bridge', 'IfcBridge', 'Coast'],
      ['Bend', 'IfcRoadPart', 'Approach'],
    ]);
  });

  it('storeys that do not say their height are asked where they are placed', () => {
    const data = `#4=IFCBUILDINGSTOREY('g',$,'Ground',$,$,$,$,$,.ELEMENT.,$);
      #5=IFCBUILDINGSTOREY('u',$,'Upper',$,$,$,$,$,.ELEMENT.,3300.);`;
    const { nodes } = readSpatialTree(
      step(data),
      { name: 'millimetre', metres: 0.001, assumed: false },
      (id) => id / 10,
    );
    expect(nodes.map(({ elevation }) => elevation)).toEqual([0.4, 3.3]);
  });
});

describe('the spatial tree', () => {
  const data = `
    #1=IFCPROJECT('p',$,'Station',$,$,$,$,$,$);
    #2=IFCSITE('s',$,$,$,$,$,$,$,.ELEMENT.,$,$,$,$,$);
    #3=IFCBUILDING('b',$,'Boat house',$,$,$,$,$,.ELEMENT.,$,$,$);
    #4=IFCBUILDINGSTOREY('g',$,'Ground',$,$,$,$,$,.ELEMENT.,0.);
    #5=IFCBUILDINGSTOREY('u',$,'Upper',$,$,$,$,$,.ELEMENT.,3300.);
    #6=IFCRELAGGREGATES('a',$,$,$,#1,(#2));
    #7=IFCRELAGGREGATES('a',$,$,$,#2,(#3));
    #8=IFCRELAGGREGATES('a',$,$,$,#3,(#4,#5));
    #20=IFCRELCONTAINEDINSPATIALSTRUCTURE('c',$,$,$,(#90,#91),#5);
    #21=IFCRELAGGREGATES('a',$,$,$,#91,(#92,#93));
    #22=IFCRELAGGREGATES('a',$,$,$,#93,(#94));`;
  const tree = readSpatialTree(step(data), { name: 'millimetre', metres: 0.001, assumed: false });

  it('has every place with its parent and, in metres, its height', () => {
    expect(tree.nodes.map(({ name, class: word, parent, elevation }) => [name, word, parent, elevation])).toEqual([
      ['Station', 'IfcProject', -1, null],
      ['Site', 'IfcSite', 0, null],
      ['Boat house', 'IfcBuilding', 1, null],
      ['Ground', 'IfcBuildingStorey', 2, 0],
      ['Upper', 'IfcBuildingStorey', 2, 3.3],
    ]);
  });

  it('finds where an element stands, through whatever it is part of', () => {
    expect([90, 91, 92, 94].map((element) => tree.nodeOf(element))).toEqual([4, 4, 4, 4]);
    expect(tree.nodeOf(99)).toBe(-1);
  });

  it('ends where parts contain each other', () => {
    const ring = readSpatialTree(
      step("#1=IFCRELAGGREGATES('a',$,$,$,#8,(#9));#2=IFCRELAGGREGATES('a',$,$,$,#9,(#8));"),
      { name: 'metre', metres: 1, assumed: false },
    );
    expect(ring.nodeOf(8)).toBe(-1);
  });
});

describe('relations', () => {
  it('say for each element what it is related to, in the order of the file', () => {
    const ids = fc.uniqueArray(fc.integer({ min: 100, max: 140 }), { maxLength: 6 });
    fc.assert(
      fc.property(fc.array(ids, { maxLength: 8 }), (relations) => {
        const data = relations.map(
          (elements, i) => `#${i + 1}=IFCREL('g',$,$,$,(${elements.map((id) => `#${id}`).join()}),#${200 + i});`,
        );
        const expected = new Map<number, number[]>();
        for (const [i, elements] of relations.entries())
          for (const element of elements) expected.set(element, [...(expected.get(element) ?? []), 200 + i]);
        expect(relatedBy(step(data.join('\n')), 'IFCREL', 4)).toEqual(expected);
      }),
    );
  });

  it('and structure are indexed, and of the rest only what is an element', () => {
    const wanted = structureTypes((type) => type === 'IFCWALL');
    const types = [
      'IFCWALL',
      'IFCWALLTYPE',
      'IFCPROPERTYSET',
      'IFCRELDEFINESBYTYPE',
      'IFCMATERIAL',
      'IFCCARTESIANPOINT',
    ];
    expect(types.map(wanted)).toEqual([true, true, true, true, true, false]);
  });
});
