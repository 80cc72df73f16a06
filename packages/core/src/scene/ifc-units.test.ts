import { describe, expect, it } from 'vitest';
import { Units } from './ifc-units.ts';
import { indexStepFile } from './step-reader.ts';

const file = (data: string) =>
  indexStepFile(
    new TextEncoder().encode(
      `ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`,
    ),
    () => true,
  );

describe('units', () => {
  const data = `
    #1=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
    #2=IFCSIUNIT(*,.AREAUNIT.,$,.SQUARE_METRE.);
    #3=IFCSIUNIT(*,.PRESSUREUNIT.,.KILO.,.PASCAL.);
    #4=IFCCONVERSIONBASEDUNIT(#90,.PLANEANGLEUNIT.,'DEGREE',#91);
    #5=IFCSIUNIT(*,.VOLUMEUNIT.,$,.CUBIC_METRE.);
    #6=IFCSIUNIT(*,.TIMEUNIT.,$,.SECOND.);
    #7=IFCDERIVEDUNIT((#8,#9),.VOLUMETRICFLOWRATEUNIT.,$);
    #8=IFCDERIVEDUNITELEMENT(#5,1);
    #9=IFCDERIVEDUNITELEMENT(#6,-1);
    #10=IFCMONETARYUNIT('NOK');
    #11=IFCSIUNIT(*,.POWERUNIT.,$,.WATT.);
    #12=IFCSIUNIT(*,.THERMODYNAMICTEMPERATUREUNIT.,$,.KELVIN.);
    #13=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
    #14=IFCDERIVEDUNITELEMENT(#11,1);
    #15=IFCDERIVEDUNITELEMENT(#13,-2);
    #16=IFCDERIVEDUNITELEMENT(#12,-1);
    #17=IFCDERIVEDUNIT((#14,#15,#16),.THERMALTRANSMITTANCEUNIT.,$);
    #18=IFCCONTEXTDEPENDENTUNIT(#90,.USERDEFINED.,'Pieces');
    #19=IFCDERIVEDUNIT((#19),.USERDEFINED.,$);
    #20=IFCUNITASSIGNMENT((#1,#2,#3,#4,#5,#7,#10,#17));`;
  const units = new Units(file(data));

  it('of a measure are those that the project assigned', () => {
    const said = ['LENGTHMEASURE', 'POSITIVELENGTHMEASURE', 'AREAMEASURE', 'PRESSUREMEASURE', 'PLANEANGLEMEASURE']
      .concat(['VOLUMETRICFLOWRATEMEASURE', 'MONETARYMEASURE', 'THERMALTRANSMITTANCEMEASURE', 'QUANTITYLENGTH'])
      .map((measure) => units.of(`IFC${measure}`));
    expect(said).toEqual(['mm', 'mm', 'm²', 'kPa', '°', 'm³/s', 'NOK', 'W/(m²·K)', 'mm']);
  });
  it('are those of the SI where the project says nothing, and none for what is only counted or said', () => {
    expect(units.of('IFCILLUMINANCEMEASURE')).toBe('lx');
    expect(units.of('IFCQUANTITYWEIGHT')).toBe('kg');
    for (const type of ['IFCQUANTITYCOUNT', 'IFCLABEL', 'IFCRATIOMEASURE', 'IFCREAL', ''])
      expect(units.of(type)).toBeUndefined();
  });
  it('have symbols of their own; one that refers to itself or to nothing has none', () => {
    expect([3, 7, 18, 19, 99].map((id) => units.symbolOf(id))).toEqual(['kPa', 'm³/s', 'pieces', undefined, undefined]);
  });
});
