import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Alike, indexStepFile, readArguments, readInstance, readReferences, StepError, typeOf } from './step-reader.ts';
import { decodeStepString, encodeStepString } from './step-strings.ts';

const file = (data: string): Uint8Array =>
  new TextEncoder().encode(
    `ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('a','t',(''),(''),'pre','The Program','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`,
  );
const all = (): boolean => true;

describe('strings', () => {
  it('are decoded from every escape of the standard', () => {
    expect(decodeStepString("it''s")).toBe("it's");
    expect(decodeStepString('\\X2\\00E400DF\\X0\\!')).toBe('äß!');
    expect(decodeStepString('\\X4\\0001F600\\X0\\')).toBe('😀');
    expect(decodeStepString('\\X\\E9t\\X\\E9')).toBe('été');
    expect(decodeStepString('\\S\\d')).toBe('ä');
    expect(decodeStepString('a\\\\b')).toBe('a\\b');
    expect(decodeStepString("\\X2\\2019\\X0\\''s")).toBe("’'s");
    expect(decodeStepString('\\PE\\\\S\\0\\S\\1 \\PG\\\\S\\a')).toBe('АБ α');
  });

  it('come back as they were written', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(decodeStepString(encodeStepString(text))).toBe(text);
      }),
    );
  });

  it('read raw UTF-8 and Latin-1 as people meant them', () => {
    const utf8 = indexStepFile(file("#1=IFCWALL('Küche');"), all);
    expect(readInstance(utf8, 1)!.args).toEqual(['Küche']);
    const latin1 = file("#1=IFCWALL('Kche');");
    const at = latin1.indexOf(0x4b) + 1;
    const withByte = new Uint8Array([...latin1.subarray(0, at), 0xfc, ...latin1.subarray(at)]);
    expect(readInstance(indexStepFile(withByte, all), 1)!.args).toEqual(['Küche']);
  });
});

describe('instances', () => {
  it('are read with all kinds of values, comments and line breaks', () => {
    const step = indexStepFile(
      file("/* #9=IFCX(); */ #12 =\n IfcWall ( 'a;b(''c'')' , $, *, .T., -1.5E-3, #7, (1,(2,3)), IFCLABEL('x') ) ;"),
      all,
    );
    expect(step.byType.get('IFCWALL')).toEqual([12]);
    expect(readInstance(step, 12)).toEqual({
      type: 'IFCWALL',
      args: ["a;b('c')", null, null, { enum: 'T' }, -0.0015, { ref: 7 }, [1, [2, 3]], { type: 'IFCLABEL', value: 'x' }],
    });
    expect(readInstance(step, 9)).toBeUndefined();
  });

  it('give the references of one argument, whatever stands before and between them', () => {
    const step = indexStepFile(
      file("#5=IFCREL('a,(#9)''',#1,(#2, /* #8 */ #3),$,IFCSETOF((#4,#6)),'#7',());#7=IFCREL(#1);"),
      all,
    );
    const found = Array.from({ length: 8 }, (_, argument) => readReferences(step, 5, argument));
    expect(found).toEqual([[], [1], [2, 3], [], [4, 6], [], [], []]);
    expect(readReferences(step, 99, 0)).toEqual([]);
    expect(typeOf(step, 7)).toBe('IFCREL');
    expect(typeOf(step, 99)).toBeUndefined();
  });

  it('read the same by one argument as by all', () => {
    const value = fc.oneof(
      fc.constant('$'),
      fc.integer({ min: 1, max: 999 }).map((id) => `#${id}`),
      fc.array(fc.integer({ min: 1, max: 999 })).map((ids) => `(${ids.map((id) => `#${id}`).join()})`),
      fc.string({ unit: 'grapheme' }).map((words) => `'${encodeStepString(words)}'`),
    );
    fc.assert(
      fc.property(fc.array(value, { minLength: 1, maxLength: 8 }), (values) => {
        const step = indexStepFile(file(`#1=IFCREL(${values.join()});`), all);
        const { args } = readInstance(step, 1)!;
        for (const [i, arg] of args.entries()) {
          expect(readArguments(step, 1, i, i + 1)).toEqual([arg]);
          const refs = [arg]
            .flat()
            .flatMap((part) => (part && typeof part === 'object' && 'ref' in part ? [part.ref] : []));
          expect(readReferences(step, 1, i)).toEqual(refs);
        }
      }),
    );
  });

  it('are alike that say the same from an argument on, in one type', () => {
    const step = indexStepFile(
      file(
        "#1=IFCSET('a',$,'Fire',(#8));#2=IFCSET('b',#9,'Fire',(#8));#3=IFCSET('c',$,'Fire',(#7));#4=IFCLIST('d',$,'Fire',(#8));#5=IFCSET('e;',$,'Fire',(#8));",
      ),
      all,
    );
    const alike = new Alike(step, 2);
    expect([1, 2, 3, 4, 5, 99].map((id) => alike.firstOf(id))).toEqual([1, 1, 3, 4, 1, 99]);
  });

  it('are found whatever the order of their numbers', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 1e6 }), { minLength: 1, maxLength: 60 }), (ids) => {
        const step = indexStepFile(file(ids.map((id) => `#${id}=IFCDOOR(${id});`).join('\n')), all);
        for (const id of ids) expect(readInstance(step, id)!.args).toEqual([id]);
      }),
    );
  });

  it('of other types are passed over', () => {
    const step = indexStepFile(file("#1=IFCDOOR('x');\n#2=IFCCARTESIANPOINT((0.,0.));"), (type) => type === 'IFCDOOR');
    expect([...step.ids]).toEqual([1]);
  });
});

describe('the header', () => {
  it('tells schema and program', () => {
    expect(indexStepFile(file(''), all)).toMatchObject({ schema: 'IFC4', application: 'The Program' });
  });
});

describe('files that are not whole', () => {
  const message = (bytes: Uint8Array): string => {
    try {
      indexStepFile(bytes, all);
    } catch (error) {
      if (error instanceof StepError) return error.code;
      throw error;
    }
    return '';
  };

  it('are refused, each for its reason', () => {
    const whole = file("#1=IFCWALL('x');");
    expect(message(new TextEncoder().encode('hello'))).toBe('no-step-file');
    expect(message(whole.subarray(0, whole.length - 30))).toBe('cut-off');
    expect(message(new TextEncoder().encode('ISO-10303-21;HEADER;ENDSEC;'))).toBe('no-data-section');
  });

  it('never do anything but end or be refused, however they are cut or garbled', () => {
    const whole = file("#1=IFCWALL('x',(#2,#3),$);\n#2=IFCDOOR(.T.,'it''s');");
    fc.assert(
      fc.property(fc.nat(whole.length), fc.nat(255), (at, byte) => {
        const garbled = whole.slice();
        garbled[at] = byte;
        try {
          const step = indexStepFile(garbled, all);
          for (const id of step.ids) readInstance(step, id);
        } catch (error) {
          expect(error).toBeInstanceOf(StepError);
        }
      }),
      { numRuns: 400 },
    );
  });
});
