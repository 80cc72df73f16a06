import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTitleBlock, type PageText, type TextRun } from './title-block.ts';

const run = (text: string, x: number, y: number, size = 8, turn = 0): TextRun => ({
  text,
  x,
  y,
  size,
  width: text.length * size * 0.5,
  turn,
});
const page = (runs: TextRun[], width = 1190, height = 842): PageText => ({ width, height, runs });

/** Rooms, dimensions and notes that stand on every plan. */
const PLAN = [
  run('Kitchen', 200, 500, 10),
  run('Living room', 420, 480, 10),
  run('3600', 300, 300, 7),
  run('+4.20', 310, 350, 7),
  run('GENERAL NOTES', 60, 760, 9),
  run('1. All dimensions in millimetres. Do not scale.', 60, 745, 7),
  run('A', 100, 800, 12),
  run('1', 40, 600, 12),
];

describe('readTitleBlock', () => {
  it('reads labels above their values', () => {
    const block = readTitleBlock(
      page([
        ...PLAN,
        run('Drawing Title', 930, 140, 6),
        run('Ground floor plan', 930, 124, 14),
        run('Drawing No.', 930, 100, 6),
        run('ABC-XYZ-00-D-A-0101', 930, 84, 12),
        run('Rev', 1120, 100, 6),
        run('P02', 1120, 84, 12),
        run('Scale @ A1', 930, 66, 6),
        run('1:100', 930, 52, 10),
        run('Date', 1030, 66, 6),
        run('12.03.2025', 1030, 52, 10),
        run('Status', 1120, 66, 6),
        run('S3', 1120, 52, 10),
      ]),
    );
    expect(block).toEqual({
      number: 'ABC-XYZ-00-D-A-0101',
      title: 'Ground floor plan',
      revision: 'P02',
      scale: '1:100',
      date: '12.03.2025',
      status: 'S3',
    });
  });

  it('reads labels before their values, with and without a colon', () => {
    const block = readTitleBlock(
      page([
        ...PLAN,
        run('Title:', 880, 120),
        run('Section A-A through the hall', 950, 120),
        run('Drawing number: S-201', 880, 100),
        run('Revision: C', 880, 80),
        run('Scale 1 : 50', 880, 60),
        run('Date', 880, 40),
        run('4 May 2024', 950, 40),
      ]),
    );
    expect(block).toMatchObject({
      number: 'S-201',
      title: 'Section A-A through the hall',
      revision: 'C',
      scale: '1:50',
      date: '4 May 2024',
    });
  });

  it('joins words that a program wrote apart, and goes on with a title of two lines', () => {
    const words = (text: string, x: number, y: number, size: number): TextRun[] => {
      let at = x;
      return text.split(' ').map((word) => {
        const one = run(word, at, y, size);
        at += one.width + 0.35 * size;
        return one;
      });
    };
    const block = readTitleBlock(
      page([
        ...words('Sheet title', 900, 150, 6),
        ...words('Reflected ceiling plan', 900, 132, 12),
        ...words('Level 01 east', 900, 116, 12),
        ...words('Sheet number', 900, 90, 6),
        ...words('A-131', 900, 74, 12),
      ]),
    );
    expect(block).toMatchObject({ title: 'Reflected ceiling plan Level 01 east', number: 'A-131' });
  });

  it('reads German, French and Spanish labels', () => {
    const german = readTitleBlock(
      page([
        run('Planinhalt', 900, 120, 6),
        run('Grundriss Erdgeschoss', 900, 106, 11),
        run('Plan-Nr.', 900, 88, 6),
        run('ARC-5-GR-001', 900, 74, 11),
        run('Index', 1080, 88, 6),
        run('b', 1080, 74, 11),
        run('Maßstab', 900, 56, 6),
        run('1:50', 900, 43, 10),
        run('Datum', 1000, 56, 6),
        run('03.04.2024', 1000, 43, 10),
      ]),
    );
    expect(german).toMatchObject({
      number: 'ARC-5-GR-001',
      title: 'Grundriss Erdgeschoss',
      revision: 'b',
      scale: '1:50',
    });
    const french = readTitleBlock(
      page([
        run('Titre :', 880, 90),
        run('Coupe longitudinale', 940, 90),
        run('Échelle :', 880, 70),
        run('1/100', 940, 70),
        run('Indice', 880, 50),
        run('B', 940, 50),
      ]),
    );
    expect(french).toMatchObject({ title: 'Coupe longitudinale', scale: '1/100', revision: 'B' });
    const spanish = readTitleBlock(
      page([
        run('Título', 880, 90, 6),
        run('Planta baja', 880, 76, 10),
        run('Escala', 880, 60, 6),
        run('1:200', 880, 46, 10),
      ]),
    );
    expect(spanish).toMatchObject({ title: 'Planta baja', scale: '1:200' });
  });

  it.each([
    ['Polish', ['Tytuł rysunku', 'Rzut parteru'], ['Nr rysunku', 'A-01'], ['Skala', '1:50'], ['Data', '12.03.2025']],
    [
      'Czech',
      ['Název výkresu', 'Půdorys přízemí'],
      ['Číslo výkresu', 'D.1-02'],
      ['Měřítko', '1:100'],
      ['Datum', '3. 4. 2025'],
    ],
    ['Portuguese', ['Título', 'Planta do piso'], ['Desenho nº', 'ARQ-03'], ['Escala', '1/100'], ['Data', '04/05/2025']],
    [
      'Swedish',
      ['Benämning', 'Plan våning 1'],
      ['Ritningsnummer', 'A-40.1-101'],
      ['Skala', '1:100'],
      ['Datum', '2025-03-12'],
    ],
    [
      'Finnish',
      ['Piirustuksen sisältö', 'Pohjapiirros'],
      ['Piirustusnumero', 'ARK-101'],
      ['Mittakaava', '1:50'],
      ['Päiväys', '12.3.2025'],
    ],
    ['Danish', ['Emne', 'Stueplan'], ['Tegningsnr', 'K01-H1'], ['Mål', '1:100'], ['Dato', '12.03.2025']],
    [
      'Hungarian',
      ['Rajz címe', 'Földszinti alaprajz'],
      ['Rajzszám', 'É-01'],
      ['Méretarány', '1:50'],
      ['Dátum', '2025.03.12'],
    ],
    [
      'Greek',
      ['Τίτλος σχεδίου', 'Κάτοψη ισογείου'],
      ['Αριθμός σχεδίου', 'A-05'],
      ['Κλίμακα', '1:50'],
      ['Ημερομηνία', '12/03/2025'],
    ],
    ['Chinese', ['图名', '首层平面图'], ['图号', '建施-03'], ['比例', '1:100'], ['日期', '2025年3月12日']],
    ['Japanese', ['図面名称', '一階平面図'], ['図面番号', 'A-12'], ['縮尺', '1:100'], ['日付', '2025/03/12']],
    [
      'ISO 7200',
      ['Title', 'Base plate'],
      ['Identification number', '4711-02'],
      ['Scale', '1:5'],
      ['Date of issue', '2025-03-12'],
    ],
    [
      'letter-spaced',
      ['T I T L E', 'Roof plan'],
      ['D R A W I N G   N O', 'A-201'],
      ['S C A L E', '1:50'],
      ['D A T E', '12.03.2025'],
    ],
  ])('reads labels in %s', (_, title, number, scale, date) => {
    const rows = [title, number, scale, date].flatMap(([label, value], i) => [
      run(label!, 930, 160 - 32 * i, 6),
      run(value!, 930, 146 - 32 * i, 10),
    ]);
    expect(readTitleBlock(page([...PLAN, ...rows]))).toMatchObject({
      title: title[1],
      number: number[1],
      scale: scale[1],
      date: date[1],
    });
  });

  it('leaves an empty cell empty, and takes a value from the middle of its own', () => {
    const block = readTitleBlock(
      page([
        run('Drawing title', 900, 160, 6),
        run('Ground floor plan', 900, 146, 12),
        run('Drawing no', 900, 110, 6),
        run('A-101', 950, 96, 12),
        run('Revision', 1040, 110, 6),
        run('Scale', 900, 76, 6),
        run('1:100', 940, 62, 10),
        run('Date', 1040, 76, 6),
        run('12.03.2025', 1060, 62, 10),
        run('Status', 1130, 110, 6),
        run('S3', 1145, 96, 10),
      ]),
    );
    expect(block).toEqual({
      title: 'Ground floor plan',
      number: 'A-101',
      revision: '',
      scale: '1:100',
      date: '12.03.2025',
      status: 'S3',
    });
  });

  it('takes the scale of the sheet, not that of a detail, and its number, not which of how many it is', () => {
    const block = readTitleBlock(
      page([
        run('Detail of the sill', 860, 330, 10),
        run('Scale: 1:5', 860, 316, 8),
        run('Title', 900, 160, 6),
        run('Details of the facade', 900, 146, 12),
        run('Sheet', 900, 120, 6),
        run('3 of 12', 900, 108, 9),
        run('Drawing no', 980, 120, 6),
        run('A\u2013501', 980, 106, 12),
        run('Scale', 900, 76, 6),
        run('1:20', 900, 62, 10),
        run('Date', 1040, 76, 6),
        run('12.03.2025', 1040, 62, 10),
      ]),
    );
    expect(block).toMatchObject({ number: 'A-501', scale: '1:20', title: 'Details of the facade' });
  });

  it('is not misled by a table of revisions', () => {
    const block = readTitleBlock(
      page([
        run('Rev', 880, 300, 6),
        run('Date', 920, 300, 6),
        run('Description', 980, 300, 6),
        run('P01', 880, 288, 7),
        run('01.02.2024', 920, 288, 7),
        run('First issue', 980, 288, 7),
        run('P02', 880, 276, 7),
        run('12.03.2024', 920, 276, 7),
        run('Stair turned', 980, 276, 7),
        run('Drawing title', 880, 140, 6),
        run('Upper floor', 880, 126, 12),
        run('Drawing number', 880, 100, 6),
        run('A-102', 880, 84, 12),
        run('Revision', 1090, 100, 6),
        run('P02', 1090, 84, 12),
        run('Scale', 880, 60, 6),
        run('1:100', 880, 46, 10),
      ]),
    );
    expect(block).toMatchObject({ number: 'A-102', title: 'Upper floor', revision: 'P02', scale: '1:100' });
  });

  it('reads a title block that is written upwards along the edge', () => {
    const upright = [
      run('Drawing title', 500, 100, 6),
      run('Roof plan', 500, 86, 12),
      run('Drawing no', 500, 60, 6),
      run('A-105', 500, 46, 12),
      run('Rev', 700, 60, 6),
      run('C02', 700, 46, 12),
    ];
    // A page of 842 × 1190 whose right edge is the lower edge of what is written.
    const turned = upright.map((one) => ({ ...one, x: 842 - one.y, y: one.x, turn: 1 }));
    expect(readTitleBlock({ width: 842, height: 1190, runs: [...PLAN, ...turned] })).toMatchObject({
      number: 'A-105',
      title: 'Roof plan',
      revision: 'C02',
    });
  });

  it('takes no room between letters into a code, and keeps the blank of a short number', () => {
    const numbered = (number: string) =>
      readTitleBlock(page([run('Drawing no', 900, 100, 6), run(number, 900, 84, 12)]));
    expect(numbered('ORP-TVA-C B-00-D-A-0111').number).toBe('ORP-TVA-CB-00-D-A-0111');
    expect(numbered('GR 01').number).toBe('GR 01');
  });

  it('finds a coded number where nothing is labelled, and nothing on a page without text', () => {
    const block = readTitleBlock(
      page([...PLAN, run('Detail of the sill', 950, 80, 16), run('ORP-TVA-ZZ-00-D-A-0501', 950, 50, 11)]),
    );
    expect(block).toMatchObject({ number: 'ORP-TVA-ZZ-00-D-A-0501', title: 'Detail of the sill' });
    expect(Object.values(readTitleBlock(page([]))).every((value) => value === '')).toBe(true);
  });

  it('answers for any text anywhere, in bounded lengths', () => {
    const any = fc.record({
      text: fc.string({ maxLength: 300 }),
      x: fc.double({ min: -100, max: 2000, noNaN: true }),
      y: fc.double({ min: -100, max: 2000, noNaN: true }),
      width: fc.double({ min: 0, max: 500, noNaN: true }),
      size: fc.double({ min: 0, max: 40, noNaN: true }),
      turn: fc.integer({ min: 0, max: 3 }),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 40 }), (runs) => {
        const block = readTitleBlock(page(runs));
        expect(block.number.length).toBeLessThanOrEqual(80);
        expect(block.title.length).toBeLessThanOrEqual(200);
      }),
    );
  });

  it('reads the same wherever the block stands on the page', () => {
    const block = [
      run('Drawing title', 0, 60, 6),
      run('Foundation plan', 0, 46, 12),
      run('Drawing no', 0, 24, 6),
      run('S-001', 0, 10, 12),
      run('Rev', 160, 24, 6),
      run('P04', 160, 10, 12),
    ];
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 900 }), fc.integer({ min: 10, max: 700 }), (dx, dy) => {
        const moved = block.map((one) => ({ ...one, x: one.x + dx, y: one.y + dy }));
        expect(readTitleBlock(page(moved))).toMatchObject({
          number: 'S-001',
          title: 'Foundation plan',
          revision: 'P04',
        });
      }),
    );
  });
});
