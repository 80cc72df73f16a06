/** A small plan in two issues, for tests of comparisons: a door that was asked to go, a wall that nobody asked about. */
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';

export interface PlanIssue {
  /** Points that the door and the wall went to the right. */
  door?: number;
  wall?: number;
  room?: string;
  /** Further sheets. */
  more?: readonly string[];
}
const MM = 72 / 25.4;
export const TWO_MM = 2 * MM;

/** Sheets of 842 × 595 points; the first is the plan. */
export async function planPdf({ door = 0, wall = 0, room = 'Store', more = [] }: PlanIssue): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const sheet = (name: string) => {
    const page = pdf.addPage([842, 595]);
    const line = (x0: number, y0: number, x1: number, y1: number) =>
      page.drawLine({ start: { x: x0, y: y0 }, end: { x: x1, y: y1 }, thickness: 0.7 });
    for (let i = 0; i < 24; i++) line(60 + 30 * i, 60, 60 + 30 * i, 90 + (i % 5) * 20);
    line(50, 50, 792, 50);
    line(50, 50, 50, 545);
    line(50, 545, 792, 545);
    page.drawText(`Sheet ${name} of the boat hall`, { x: 60, y: 30, size: 10, font });
    return { page, line };
  };
  const { page, line } = sheet('one');
  // The door: leaf, jamb, threshold.
  line(200 + door, 300, 200 + door, 330);
  line(200 + door, 300, 230 + door, 300);
  line(230 + door, 300, 215 + door, 327);
  // The wall.
  line(500 + wall, 200, 500 + wall, 420);
  line(506 + wall, 200, 506 + wall, 420);
  page.drawText(room, { x: 620, y: 300, size: 9, font });
  // The stair.
  for (let i = 0; i < 8; i++) line(340 + 8 * i, 440, 340 + 8 * i, 480);
  for (const name of more) sheet(name);
  return pdf.save();
}
