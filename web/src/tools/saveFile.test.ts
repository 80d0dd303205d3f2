import Papa from "papaparse";
import { expect, it } from "vitest";
import { csvText } from "./saveFile.ts";

it("quotes what RFC 4180 asks for, and reads back to the same cells", () => {
  const rows = [
    ["wire", "cut mm"],
    ["a,b", 1550],
    ['say "so"', "two\nlines"],
  ];
  const text = csvText(rows);
  expect(text).toBe('wire,cut mm\r\n"a,b",1550\r\n"say ""so""","two\nlines"');
  expect(Papa.parse(text).data).toEqual(rows.map((row) => row.map(String)));
});

it("keeps a text that a spreadsheet would run as a formula a text, and numbers numbers", () => {
  expect(csvText([['=HYPERLINK("x")']])).toBe(`"'=HYPERLINK(""x"")"`);
  expect(csvText([["+5", "-5", "-cmd", "@x", -5]])).toBe('"\'+5",-5,"\'-cmd","\'@x",-5');
});
