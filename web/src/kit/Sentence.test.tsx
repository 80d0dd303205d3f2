import { renderToStaticMarkup } from "react-dom/server";
import { expect, it } from "vitest";
import { Sentence } from "./Sentence.tsx";

/** What stands on one line by all means. */
function unbroken(text: string): string[] {
  const markup = renderToStaticMarkup(<Sentence text={text} />);
  expect(markup.replace(/<\/?span[^>]*>/g, "")).toBe(text);
  return [...markup.matchAll(/<span class="whitespace-nowrap">([^<]*)<\/span>/g)].map(([, words]) => words!);
}

it("keeps each number and its unit on one line, and lets other words go apart", () => {
  expect(unbroken("18 carries 2.58 A: 26.6 W, which burn it after some 7.9 s.")).toEqual(["2.58 A", "26.6 W", "7.9 s"]);
  expect(unbroken("W12 of 1 mm2 has 19.5 mohm")).toEqual(["1 mm2"]);
  expect(unbroken("57 % lost in 22.5 m; put 150 ohm there")).toEqual(["57 %", "22.5 m", "150 ohm"]);
  for (const words of ["", "T1 at N and T2 at R", "2 motors", "18 months", "turnout 3 and 4", "address 12 served"])
    expect(unbroken(words)).toEqual([]);
});
