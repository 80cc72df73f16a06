const NAMED: Record<string, string> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };
const BREAKS = new Set(['/p', 'br', 'br/', 'br /', '/div', '/li']);

/** Rich text (XHTML) without its marks; paragraphs become lines. Linear in its length. */
export function plainText(rich: string): string {
  let text = '';
  for (let at = 0; at < rich.length;) {
    const open = rich.indexOf('<', at);
    text += rich.slice(at, open < 0 ? rich.length : open);
    const close = open < 0 ? -1 : rich.indexOf('>', open);
    if (close < 0) break;
    if (BREAKS.has(rich.slice(open + 1, close).toLowerCase())) text += '\n';
    at = close + 1;
  }
  return text.replace(/&(lt|gt|amp|quot|apos);/g, (_, name: string) => NAMED[name]!).trim();
}
