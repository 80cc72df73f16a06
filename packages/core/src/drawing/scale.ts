/** The scale of a sheet, as its title block writes it. */

/** Metres on paper of a point (1/72 inch). */
export const METRES_PER_POINT = 0.0254 / 72;

const LENGTH = String.raw`(\d+(?:[.,]\d+)?)`;
/** `1:100`, `1/50`, `1 : 12,500`: how many times larger the thing is. */
const RATIO = new RegExp(
  String.raw`(?:^|[^\d.,/])${LENGTH} ?[:/] ?(\d{1,3}(?:[ ,.']\d{3})+|\d+(?:[.,]\d+)?)(?![\d/"″])`,
);
/** `1/4" = 1'-0"`, `1 1/2" = 1'`, `3" = 10'-6"`: inches on paper, feet and inches of the thing. */
const IMPERIAL =
  /((?:\d{1,3}[ -])?\d{1,3}\/\d{1,3}|\d{1,3}(?:\.\d{1,4})?) ?(?:"|″|in\b) ?= ?(\d{1,5}) ?(?:'|′|ft\b)(?: ?-? ?(\d{1,2}) ?(?:"|″|in\b)?)?/;

/** How many times larger the thing is than it is drawn; undefined where the text names no single scale. */
export function readScale(text: string): number | undefined {
  const imperial = IMPERIAL.exec(text);
  if (imperial) {
    const drawn = inches(imperial[1]!);
    const real = 12 * Number(imperial[2]) + Number(imperial[3] ?? 0);
    return drawn > 0 && real > 0 ? real / drawn : undefined;
  }
  const ratio = RATIO.exec(` ${text}`);
  if (!ratio) return undefined;
  const [drawn, real] = [Number(ratio[1]!.replace(',', '.')), whole(ratio[2]!)];
  const scale = real / drawn;
  return Number.isFinite(scale) && scale > 0 ? scale : undefined;
}

function inches(text: string): number {
  const [first, second] = text.split(/[ -]/) as [string, string?];
  const part = (one: string): number => {
    const [over, under = '1'] = one.split('/');
    return Number(over) / Number(under);
  };
  return part(first) + (second === undefined ? 0 : part(second));
}

/** `12,500` and `12 500` are thousands; `2,5` is a broken number. */
const whole = (text: string): number =>
  /^\d{1,3}(?:[ ,.']\d{3})+$/.test(text) ? Number(text.replace(/[ ,.']/g, '')) : Number(text.replace(',', '.'));
