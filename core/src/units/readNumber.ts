/** A number as it was typed, or the sentence that says what is wrong with it. */
export type NumberRead = { number: number } | { problem: string };

/** Blanks of any width, apostrophes and thin spaces between thousands. */
const GROUPING = /(?<=\d)[\s'’\u00a0\u2009\u202f](?=\d{3}(?:\D|$))/g;

/**
 * A number as people type it: with a point or a comma before the decimals, with thousands set apart, with any minus sign.
 *
 * When both marks stand in it, the last one is before the decimals; a mark that comes twice sets thousands apart. One comma
 * before exactly three digits could be either: it is not guessed.
 * @example readNumber("1 234,5") // { number: 1234.5 }
 * @example readNumber("1.234,50") // { number: 1234.5 }
 * @example readNumber("0,125") // { number: 0.125 }
 * @example readNumber("1,000") // { problem: "1,000 can mean 1000 or 1.0: type it without the comma." }
 */
export function readNumber(typed: string): NumberRead {
  const text = typed.trim().replace(/^[−–]/, "-").replaceAll(GROUPING, "");
  const unsigned = text.replace(/^[+-]/, "");
  if (!/^(?:\d[\d.,]*|[.,]\d+)(?:e[+-]?\d+)?$/i.test(unsigned)) return { problem: "Type a number." };
  const [mantissa = "", exponent] = unsigned.split(/e/i);
  const plain = withPoint(mantissa);
  if (plain === null) return { problem: `${typed.trim()} is no number: thousands have three digits each.` };
  if (plain === "either") {
    const without = mantissa.replace(",", "");
    return {
      problem: `${typed.trim()} can mean ${without} or ${mantissa.replace(",", ".").replace(/0+$/, "0")}: type it without the comma.`,
    };
  }
  const number = Number(`${text.startsWith("-") ? "-" : ""}${plain}${exponent === undefined ? "" : `e${exponent}`}`);
  return Number.isFinite(number) ? { number } : { problem: "Type a number that is not so large." };
}

/** Digits with a point before the decimals; null when the marks make no sense, "either" when they can be read in two ways. */
function withPoint(text: string): string | null {
  const marks = [...text].filter((each) => each === "." || each === ",");
  const last = marks.at(-1);
  if (last === undefined) return text;
  const others = marks.slice(0, -1);
  if (others.length === 0) {
    if (last === "," && /^[1-9]\d{0,2},\d{3}$/.test(text)) return "either";
    return text.replace(",", ".");
  }
  const thousands = others[0] === last ? last : others[0];
  const decimal = thousands === last ? null : last;
  if (others.some((mark) => mark !== thousands)) return null;
  const [whole = "", decimals] =
    decimal === null ? [text] : [text.slice(0, text.lastIndexOf(decimal)), text.slice(text.lastIndexOf(decimal) + 1)];
  const groups = whole.split(thousands ?? "");
  if (groups.some((group, index) => (index === 0 ? !/^\d{1,3}$/.test(group) : !/^\d{3}$/.test(group)))) return null;
  return `${groups.join("")}${decimals === undefined ? "" : `.${decimals}`}`;
}
