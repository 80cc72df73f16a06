/** An old survey on paper, as a scanner hands it over: grey pixels, a little askew, with specks. */
import { PDFDocument, PDFName } from '@cantoo/pdf-lib';
import { letteringOf } from './lettering.ts';

const [WIDTH, HEIGHT] = [1754, 1240];
/** A4 landscape in points. */
const PAGE: [number, number] = [842, 595];
const ASKEW = 0.011;

/** Text, left end of its base line, height of the letters. */
const WORDS = [
  ['SURVEY OF THE SHORE', 1000, 1036, 28],
  ['OLD BOATHOUSE', 420, 780, 26],
  ['DRAWING NO', 1000, 1074, 20],
  ['ORP-901', 1000, 1114, 26],
  ['SCALE', 1330, 1074, 20],
  ['1:200', 1330, 1114, 26],
  ['SLIPWAY', 1180, 512, 26],
] as const;

/** The same noise each time. */
function* noise(): Generator<number> {
  for (let seed = 20_261; ; seed = (seed * 48_271) % 2_147_483_647) yield seed / 2_147_483_647;
}

export async function writeScan(): Promise<Uint8Array> {
  const pixels = new Uint8Array(WIDTH * HEIGHT);
  const random = noise();
  const next = (): number => random.next().value as number;
  for (let i = 0; i < pixels.length; i++) pixels[i] = 236 + Math.floor(next() * 12);
  const line = (x0: number, y0: number, x1: number, y1: number, broad: number): void => {
    const steps = Math.ceil(Math.hypot(x1 - x0, y1 - y0));
    for (let k = 0; k <= steps; k++) {
      const [x, y] = [x0 + ((x1 - x0) * k) / steps, y0 + ((y1 - y0) * k) / steps];
      const [px, py] = [Math.round(x - ASKEW * y), Math.round(y + ASKEW * x)];
      for (let dy = 0; dy < broad; dy++)
        for (let dx = 0; dx < broad; dx++) {
          const at = (py + dy) * WIDTH + px + dx;
          if (px + dx >= 0 && px + dx < WIDTH && at >= 0 && at < pixels.length)
            pixels[at] = 40 + Math.floor(next() * 50);
        }
    }
  };
  const box = (x: number, y: number, w: number, h: number, broad: number): void => {
    line(x, y, x + w, y, broad);
    line(x + w, y, x + w, y + h, broad);
    line(x + w, y + h, x, y + h, broad);
    line(x, y + h, x, y, broad);
  };
  box(60, 60, 1600, 1080, 4);
  box(300, 320, 760, 380, 6);
  box(306, 326, 748, 368, 2);
  for (const x of [500, 690, 880]) line(x, 330, x, 690, 5);
  line(306, 520, 880, 520, 5);
  // The shore, and the slipway running into it.
  for (let x = 80; x < 1640; x += 20)
    line(x, 960 + 24 * Math.sin(x / 90), x + 20, 960 + 24 * Math.sin((x + 20) / 90), 2);
  box(1060, 420, 500, 150, 4);
  for (const [text, x, y, height] of WORDS)
    for (const stroke of letteringOf(text, x, y, height))
      for (const [i, [x1, y1]] of stroke.entries()) line(...(stroke[i - 1] ?? [x1, y1]), x1, y1, height > 24 ? 4 : 3);
  for (let i = 0; i < 900; i++) pixels[Math.floor(next() * pixels.length)] = 60;
  const pdf = await PDFDocument.create();
  const page = pdf.addPage(PAGE);
  const image = pdf.context.flateStream(pixels, {
    ...{ Type: 'XObject', Subtype: 'Image', Width: WIDTH, Height: HEIGHT },
    ...{ ColorSpace: 'DeviceGray', BitsPerComponent: 8 },
  });
  page.node.setXObject(PDFName.of('S'), pdf.context.register(image));
  const content = pdf.context.flateStream(`q ${PAGE[0]} 0 0 ${PAGE[1]} 0 0 cm /S Do Q`);
  page.node.addContentStream(pdf.context.register(content));
  return pdf.save();
}
