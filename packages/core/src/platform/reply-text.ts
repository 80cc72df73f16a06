/**
 * What somebody wrote in answer to a letter: without what mail programs put below it again. Lines that begin with “>” are quotations;
 * the line above the first that ends in a colon says whose words follow (RFC 3676, 4.5, and the custom of mail programs).
 */
export function replyText(body: string): string {
  const lines = body.replaceAll('\r\n', '\n').split('\n');
  const quoted = lines.findIndex((line) => line.startsWith('>') || /^-{2,}\s?(?:Original|Forwarded)/i.test(line));
  let end = quoted < 0 ? lines.length : quoted;
  if (quoted >= 0) {
    while (end > 0 && !lines[end - 1]!.trim()) end--;
    if (lines[end - 1]?.trimEnd().endsWith(':')) {
      end--;
      // The sentence about who wrote when may be broken into two lines.
      if (end > 0 && lines[end - 1]!.trim() && !/[.!?]$/.test(lines[end - 1]!.trim()) && /\d/.test(lines[end - 1]!))
        end--;
    }
  }
  const own = lines.slice(0, end);
  const signature = own.findIndex((line) => line === '-- ');
  return (signature < 0 ? own : own.slice(0, signature)).join('\n').trim();
}
