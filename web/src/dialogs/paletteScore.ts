/**
 * How well something in the palette fits what is typed, 1 to 0 (not at all): its own label first, then what begins with it,
 * then what has all the words. Letters strewn over a long name are no fit: D1 is not "Linkspan, road 1".
 *
 * @param words everything by which it is found
 * @param label what it is called
 */
export function paletteScore(words: string, typed: string, label: string): number {
  const wanted = typed.trim().toLowerCase();
  const name = label.toLowerCase();
  if (wanted === "" || name === wanted) return 1;
  if (name.startsWith(wanted)) return 0.8;
  const all = words.toLowerCase();
  const parts = wanted.split(/\s+/);
  if (!parts.every((part) => all.includes(part))) return 0;
  const begins = parts.every((part) => all.split(/\s+/).some((word) => word.startsWith(part)));
  return begins ? 0.5 : 0.3;
}
