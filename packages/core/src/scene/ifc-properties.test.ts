import { describe, expect, it } from 'vitest';
import { readProperties, readTypeNames, withOverrides, type PropertySet } from './ifc-properties.ts';
import { indexStepFile } from './step-reader.ts';

const step = (data: string) =>
  indexStepFile(
    new TextEncoder().encode(
      `ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('a','t',(''),(''),'pre','The Program','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`,
    ),
    () => true,
  );
/** The sets of each element, as they are shown. */
function setsOf(data: string, elements: number[]): PropertySet[][] {
  const { sets, numbers, starts } = readProperties(step(data), elements);
  return elements.map((_, row) =>
    numbers.slice(starts[row], starts[row + 1]).map((number) => JSON.parse(sets[number]!) as PropertySet),
  );
}
const defines = (id: number, elements: string, set: string): string =>
  `#${id}=IFCRELDEFINESBYPROPERTIES('r${id}',$,$,$,(${elements}),${set});`;

describe('properties', () => {
  it('keep their values, whatever kind they are of, with units where the measure has one', () => {
    const data = `
      #100=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
      #101=IFCUNITASSIGNMENT((#100));
      #1=IFCPROPERTYSINGLEVALUE('IsExternal',$,IFCBOOLEAN(.T.),$);
      #2=IFCPROPERTYSINGLEVALUE('Width',$,IFCPOSITIVELENGTHMEASURE(240.),$);
      #3=IFCPROPERTYSINGLEVALUE('U',$,IFCTHERMALTRANSMITTANCEMEASURE(0.24),$);
      #4=IFCPROPERTYSINGLEVALUE('Empty',$,$,$);
      #5=IFCPROPERTYENUMERATEDVALUE('Status',$,(IFCLABEL('NEW'),IFCLABEL('TEMPORARY')),$);
      #6=IFCPROPERTYLISTVALUE('Steps',$,(IFCINTEGER(1),IFCINTEGER(2)),$);
      #7=IFCPROPERTYBOUNDEDVALUE('Range',$,IFCREAL(9.),IFCREAL(1.),$,$);
      #8=IFCCOMPLEXPROPERTY('Lock',$,'use',(#1,#4));
      #9=IFCPROPERTYSINGLEVALUE('Known',$,IFCLOGICAL(.U.),$);
      #20=IFCPROPERTYSET('s',$,'Pset_DoorCommon',$,(#1,#2,#3,#4,#5,#6,#7,#8,#9));
      ${defines(30, '#90', '#20')}`;
    expect(setsOf(data, [90])).toEqual([
      [
        {
          name: 'Pset_DoorCommon',
          kind: 'properties',
          from: 'element',
          properties: [
            { name: 'IsExternal', value: true },
            { name: 'Width', value: 240, unit: 'mm' },
            { name: 'U', value: 0.24, unit: 'W/(m²·K)' },
            { name: 'Empty', value: null },
            { name: 'Status', value: 'NEW, TEMPORARY' },
            { name: 'Steps', value: '1, 2' },
            { name: 'Range', value: '1 to 9' },
            { name: 'Lock / IsExternal', value: true },
            { name: 'Lock / Empty', value: null },
            { name: 'Known', value: 'unknown' },
          ],
        },
      ],
    ]);
  });

  it('have the unit of their own before that of the project, whatever kind of value they are', () => {
    const data = `
      #100=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
      #101=IFCUNITASSIGNMENT((#100));
      #102=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
      #103=IFCSIUNIT(*,.TIMEUNIT.,$,.SECOND.);
      #1=IFCPROPERTYSINGLEVALUE('Span',$,IFCLENGTHMEASURE(6.),#102);
      #2=IFCPROPERTYBOUNDEDVALUE('Height',$,IFCLENGTHMEASURE(9.),IFCLENGTHMEASURE(1.),#102,IFCLENGTHMEASURE(5.));
      #3=IFCPROPERTYLISTVALUE('Steps',$,(IFCLENGTHMEASURE(1.),IFCLENGTHMEASURE(2.)),$);
      #4=IFCPROPERTYTABLEVALUE('Curve',$,(IFCREAL(0.),IFCREAL(2.)),(IFCREAL(1.),IFCREAL(4.)),$,#103,#102,$);
      #5=IFCMATERIAL('Oak',$,$);
      #6=IFCPROPERTYREFERENCEVALUE('Made of',$,$,#5);
      #7=IFCQUANTITYLENGTH('Length',$,#102,3.,$);
      #8=IFCPHYSICALCOMPLEXQUANTITY('Leaf',$,(#7),'leaf',$,$);
      #20=IFCPROPERTYSET('s',$,'Pset',$,(#1,#2,#3,#4,#6));
      #21=IFCELEMENTQUANTITY('s',$,'Quantities',$,$,(#8));
      ${defines(30, '#90', '#20')}${defines(31, '#90', '#21')}`;
    const [set, quantities] = setsOf(data, [90])[0]!;
    expect(set!.properties).toEqual([
      { name: 'Span', value: 6, unit: 'm' },
      { name: 'Height', value: '5, within 1 to 9', unit: 'm' },
      { name: 'Steps', value: '1, 2', unit: 'mm' },
      { name: 'Curve', value: '0 s → 1 m, 2 s → 4 m' },
      { name: 'Made of', value: 'Oak' },
    ]);
    expect(quantities!.properties).toEqual([{ name: 'Leaf / Length', value: 3, unit: 'm' }]);
  });

  it('of classifications name their system, those of the type too', () => {
    const data = `
      #40=IFCDOORTYPE('t',$,'Door 900',$,$,$,$,$,$,.DOOR.,.SINGLE_SWING_LEFT.,$,$);
      #41=IFCRELDEFINESBYTYPE('r',$,$,$,(#90),#40);
      #50=IFCCLASSIFICATION('S','2',$,'Parts of buildings',$,$,$);
      #51=IFCCLASSIFICATIONREFERENCE($,'K','Openings',#50,$,$);
      #52=IFCCLASSIFICATIONREFERENCE($,'K25','Doors',#51,$,$);
      #53=IFCRELASSOCIATESCLASSIFICATION('r',$,$,$,(#40),#52);`;
    expect(setsOf(data, [90])[0]).toEqual([
      {
        ...{ name: 'Parts of buildings', kind: 'classification', from: 'type' },
        properties: [{ name: 'K25', value: 'Doors' }],
      },
    ]);
  });

  it('of quantities follow the length unit of the file', () => {
    const data = `
      #100=IFCCONVERSIONBASEDUNIT(#103,.LENGTHUNIT.,'FOOT',#102);
      #101=IFCUNITASSIGNMENT((#100));
      #1=IFCQUANTITYLENGTH('Length',$,$,3000.,$);
      #2=IFCQUANTITYVOLUME('NetVolume',$,$,1.5,$);
      #3=IFCQUANTITYCOUNT('Count',$,$,4.,$);
      #20=IFCELEMENTQUANTITY('s',$,'BaseQuantities',$,$,(#1,#2,#3));
      ${defines(30, '#90', '#20')}`;
    expect(setsOf(data, [90])[0]![0]).toEqual({
      name: 'BaseQuantities',
      kind: 'quantities',
      from: 'element',
      properties: [
        { name: 'Length', value: 3000, unit: 'ft' },
        { name: 'NetVolume', value: 1.5, unit: 'm³' },
        { name: 'Count', value: 4 },
      ],
    });
  });

  it('are stored once for all elements whose sets say the same, and apart where they do not', () => {
    const data = `
      #1=IFCPROPERTYSINGLEVALUE('Fire',$,IFCLABEL('R60'),$);
      #2=IFCPROPERTYSINGLEVALUE('Fire',$,IFCLABEL('R90'),$);
      #20=IFCPROPERTYSET('a',$,'Pset',$,(#1));
      #21=IFCPROPERTYSET('b',#5,'Pset',$,(#1));
      #22=IFCPROPERTYSET('c',$,'Pset',$,(#2));
      ${defines(30, '#90', '#20')}${defines(31, '#91', '#21')}${defines(32, '#92,#93', '#22')}`;
    const { sets } = readProperties(step(data), [90, 91, 92, 93]);
    expect(sets).toHaveLength(2);
    const fire = setsOf(data, [90, 91, 92, 93, 94]).map((own) => own.flatMap((set) => set.properties[0]!.value));
    expect(fire).toEqual([['R60'], ['R60'], ['R90'], ['R90'], []]);
  });

  it('come from every set of a relation that names several at once', () => {
    const data = `
      #1=IFCPROPERTYSINGLEVALUE('One',$,IFCINTEGER(1),$);
      #20=IFCPROPERTYSET('a',$,'First',$,(#1));
      #21=IFCPROPERTYSET('b',$,'Second',$,(#1));
      ${defines(30, '#90', 'IFCPROPERTYSETDEFINITIONSET((#20,#21))')}`;
    expect(setsOf(data, [90])[0]!.map(({ name }) => name)).toEqual(['First', 'Second']);
  });

  it('of the type stand beside those of the element; materials and classifications are told too', () => {
    const data = `
      #1=IFCPROPERTYSINGLEVALUE('Rating',$,IFCLABEL('EI30'),$);
      #20=IFCPROPERTYSET('a',$,'Pset_DoorCommon',$,(#1));
      #40=IFCDOORTYPE('t',$,'Door 900',$,$,(#20),$,$,$,.DOOR.,.SINGLE_SWING_LEFT.,$,$);
      #41=IFCRELDEFINESBYTYPE('r',$,$,$,(#90,#91),#40);
      #50=IFCMATERIAL('Oak',$,$);
      #51=IFCMATERIAL('Steel',$,$);
      #52=IFCMATERIALLAYER(#50,40.,$,$,$,$,$);
      #53=IFCMATERIALLAYER(#51,2.,$,$,$,$,$);
      #54=IFCMATERIALLAYERSET((#52,#53),'Leaf',$);
      #55=IFCMATERIALLAYERSETUSAGE(#54,.AXIS2.,.POSITIVE.,0.,$);
      #56=IFCRELASSOCIATESMATERIAL('r',$,$,$,(#40),#55);
      #60=IFCCLASSIFICATIONREFERENCE($,'K25','Doors',$,$,$);
      #61=IFCRELASSOCIATESCLASSIFICATION('r',$,$,$,(#90),#60);`;
    const [first, second] = setsOf(data, [90, 91]);
    expect(first!.map(({ kind, from }) => `${kind} of the ${from}`)).toEqual([
      'properties of the type',
      'materials of the element',
      'classification of the element',
    ]);
    expect(first![1]!.properties).toEqual([
      { name: 'Material 1', value: 'Oak' },
      { name: 'Material 1 / Thickness', value: 40, unit: 'm' },
      { name: 'Material 2', value: 'Steel' },
      { name: 'Material 2 / Thickness', value: 2, unit: 'm' },
    ]);
    expect(first![2]!.properties).toEqual([{ name: 'K25', value: 'Doors' }]);
    expect(second).toHaveLength(2);
    expect([...readTypeNames(step(data))]).toEqual([
      [90, 'Door 900'],
      [91, 'Door 900'],
    ]);
  });

  it('tell profiles and constituents, systems, zones and documents', () => {
    const data = `
      #50=IFCMATERIAL('S355',$,$);
      #57=IFCISHAPEPROFILEDEF(.AREA.,'HE 200 A',$,0.2,0.19,0.0065,0.01,$,$,$);
      #52=IFCMATERIALPROFILE('Shaft',$,#50,#57,$,$);
      #53=IFCMATERIALPROFILESET('set',$,(#52),$);
      #54=IFCMATERIALPROFILESETUSAGE(#53,5,$);
      #55=IFCMATERIALCONSTITUENT('Frame',$,#50,0.2,$);
      #56=IFCMATERIALCONSTITUENTSET('door',$,(#55));
      #60=IFCRELASSOCIATESMATERIAL('r',$,$,$,(#90),#54);
      #61=IFCRELASSOCIATESMATERIAL('r',$,$,$,(#91),#56);
      #70=IFCDISTRIBUTIONSYSTEM('g',$,'Supply air 1',$,$,$,.VENTILATION.);
      #71=IFCRELASSIGNSTOGROUP('r',$,$,$,(#90,#91),$,#70);
      #72=IFCZONE('z',$,'Wet rooms',$,$,$);
      #73=IFCRELASSIGNSTOGROUP('r',$,$,$,(#91),$,#72);
      #80=IFCDOCUMENTREFERENCE('https://station.example/d.pdf','D-7','Door sheet',$,$);
      #81=IFCRELASSOCIATESDOCUMENT('r',$,$,$,(#90),#80);
      #82=IFCDOCUMENTINFORMATION('M-1','Manual',$,'m.pdf',$,$,$,$,$,$,$,$,$,$,$,$,$);
      #83=IFCRELASSOCIATESDOCUMENT('r',$,$,$,(#91),#82);`;
    const said = setsOf(data, [90, 91]).map((sets) =>
      sets.flatMap(({ kind, properties }) => properties.map(({ name, value }) => `${kind}: ${name} = ${value}`)),
    );
    expect(said).toEqual([
      [
        'materials: Material = S355',
        'materials: Material / Profile = HE 200 A',
        'groups: System = Supply air 1',
        'documents: D-7 = Door sheet',
      ],
      [
        'materials: Frame = S355',
        'materials: Frame / Fraction = 0.2',
        'groups: System = Supply air 1',
        'groups: Zone = Wet rooms',
        'documents: M-1 = Manual',
      ],
    ]);
  });

  it('of the element replace those of its type, which are marked', () => {
    const rating = (value: string) => ({ name: 'Rating', value });
    const set = (from: PropertySet['from'], ...properties: PropertySet['properties']): PropertySet => ({
      ...{ name: 'Pset_DoorCommon', kind: 'properties', from, properties },
    });
    const other = { name: 'Leaf', value: 'steel' };
    expect(withOverrides([set('element', rating('EI60')), set('type', rating('EI30'), other)])).toEqual([
      set('element', rating('EI60')),
      set('type', { ...rating('EI30'), overridden: true }, other),
    ]);
    expect(withOverrides([set('type', rating('EI30'))])).toEqual([set('type', rating('EI30'))]);
  });

  it('that refer to nothing, or to themselves, do no harm', () => {
    const data = `
      #1=IFCCOMPLEXPROPERTY('Odd',$,'use',(#99));
      #20=IFCPROPERTYSET('a',$,'Pset',$,(#1,#98));
      #50=IFCMATERIALLIST((#50));
      #51=IFCRELASSOCIATESMATERIAL('r',$,$,$,(#90),#50);
      ${defines(30, '#90', '#20')}${defines(31, '#90', '#97')}${defines(32, '', '$')}`;
    expect(setsOf(data, [90])).toEqual([[{ name: 'Pset', kind: 'properties', from: 'element', properties: [] }]]);
  });
});
