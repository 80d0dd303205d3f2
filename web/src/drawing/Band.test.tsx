import fc from "fast-check";
import { renderToStaticMarkup } from "react-dom/server";
import { expect, it } from "vitest";
import { Band } from "./Band.tsx";

/** Where the figures below the rule stand, and what they say. */
const figures = (markup: string) =>
  [...markup.matchAll(/<text[^>]* x="([^"]+)"[^>]*>([^<]*)</g)].map(([, x, text]) => ({
    x: Number(x),
    text: text ?? "",
  }));

it("writes figures that do not run into each other, whatever the band", () => {
  const middle = fc.double({ min: -2000, max: 2000, noNaN: true });
  const half = fc.double({ min: 0.005, max: 500, noNaN: true });
  fc.assert(
    fc.property(middle, half, (at, by) => {
      const shown = figures(renderToStaticMarkup(<Band low={at - by} high={at + by} width={176} />));
      for (const [index, { x, text }] of shown.entries()) {
        const next = shown[index + 1];
        // a character of the figures' face is 6.6 pixels wide at their size
        if (next) expect(next.x - x).toBeGreaterThan(((text.length + next.text.length) / 2) * 6.6);
      }
    }),
  );
});

it("keeps the signs of small values, and no sign of nothing", () => {
  const texts = figures(renderToStaticMarkup(<Band low={-0.02} high={0.02} width={176} />)).map(({ text }) => text);
  expect(texts.length).toBeGreaterThan(0);
  for (const text of texts) expect(text).toMatch(/^(0\.0+|−?\d\.\d+)$/);
  expect(texts.some((text) => /^−0\.0+$/.test(text))).toBe(false);
});
