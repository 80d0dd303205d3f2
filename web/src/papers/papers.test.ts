import { readFileSync } from "node:fs";
import {
  Derived,
  LABEL_SHEETS,
  type LabelSheet,
  labelArea,
  MARGIN,
  PAPER_SIZES,
  PAPERS,
  type Paper,
  type PaperOptions,
  type PlacedLabels,
  tablesOf,
} from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import jsQR from "jsqr";
import { getDocument, OPS, type PDFPageProxy } from "pdfjs-dist/legacy/build/pdf.mjs";
import readExcel from "read-excel-file/node";
import { expect, it } from "vitest";
import { pdfOf } from "./pdf.ts";
import { EDGE, type PaperHead } from "./pdfParts.ts";
import { xlsxOf } from "./xlsx.ts";

const HEAD: PaperHead = { railway: "Test", date: "1 May 2026", size: PAPER_SIZES.A4 };
const POINT = 72 / 25.4;

const load = (url: string) => Promise.resolve(new Uint8Array(readFileSync(new URL(`../../..${url}`, import.meta.url))));

const options = (change: Partial<PaperOptions["labels"]> = {}): PaperOptions => ({
  turnouts: null,
  openOnly: false,
  labels: { sheet: LABEL_SHEETS[0] as LabelSheet, style: "flag", code: false, used: 0, ...change },
});

const derived = new Derived(smallRailway());
const paper = (id: string, chosen = options()): Paper => PAPERS.find((each) => each.id === id)!.make(derived, chosen);

/** Pages of a paper as a reader of PDF sees them. */
async function pages(of: Paper, head = HEAD): Promise<PDFPageProxy[]> {
  const document = await getDocument({ data: await pdfOf(of, head, load), verbosity: 0 }).promise;
  return Promise.all(Array.from({ length: document.numPages }, (_, index) => document.getPage(index + 1)));
}

/** Texts on a page with their left ends and base lines, millimetres from the left and the top. */
async function texts(page: PDFPageProxy) {
  const [, , , height = 0] = page.view;
  const { items } = await page.getTextContent();
  return items.flatMap((item) =>
    "str" in item && item.str.trim() !== ""
      ? [
          {
            text: item.str,
            x: item.transform[4] / POINT,
            y: (height - item.transform[5]) / POINT,
            width: item.width / POINT,
            size: item.height / POINT,
          },
        ]
      : [],
  );
}

// ISO 216: A4 is 210 by 297 mm; ANSI/ASME Y14.1: Letter is 8.5 by 11 in
it.each([
  ["A4", 210, 297],
  ["Letter", 8.5 * 25.4, 11 * 25.4],
] as const)("prints on %s", async (name, width, height) => {
  const [page] = await pages(paper("cut-list"), { ...HEAD, size: PAPER_SIZES[name] });
  const [, , right = 0, top = 0] = page!.view;
  expect(right / POINT).toBeCloseTo(width, 1);
  expect(top / POINT).toBeCloseTo(height, 1);
});

it.each(
  LABEL_SHEETS.flatMap((sheet) =>
    (["flag", "wrap"] as const).flatMap((style) => [true, false].map((code) => ({ sheet, style, code }))),
  ),
)("lays each label within its place: $sheet.name, $style, code $code", async ({ sheet, style, code }) => {
  const labels = paper("labels", options({ sheet, style, code, used: 3 }));
  const placed = labels.parts.find((part): part is PlacedLabels => part.kind === "labels")!;
  expect(placed.labels).toHaveLength(2 * derived.loom.wires.length);
  const [first] = placed.labels;
  expect(first!.x).toBeCloseTo(sheet.left + (3 % sheet.columns) * sheet.across);
  const sheets = await pages(labels);
  expect(sheets).toHaveLength(Math.ceil((placed.labels.length + 3) / (sheet.columns * sheet.rows)));
  const area = labelArea(sheet, style, code);
  for (const [index, page] of sheets.entries()) {
    const own = placed.labels.filter((label) => label.page === index);
    const found = await texts(page);
    // a tenth of a millimetre for what the reader rounds
    for (const { text, x, y, width, size } of found) {
      const label = own.find(
        (each) => x > each.x && x < each.x + sheet.width && y > each.y && y < each.y + sheet.height,
      )!;
      expect(label.text).toContain(text);
      const half = style === "flag" && x > label.x + sheet.width / 2 ? sheet.width / 2 : 0;
      expect(x).toBeGreaterThan(label.x + half + MARGIN - 0.1);
      expect(x + width).toBeLessThan(
        label.x + half + (style === "flag" ? sheet.width / 2 : sheet.width) - MARGIN + 0.1,
      );
      expect(y - size * 0.8).toBeGreaterThan(label.y);
      expect(width).toBeLessThan(area.width + 0.1);
    }
    const times = style === "flag" ? 2 : 1;
    for (const { text } of new Set(own)) {
      const [wire] = text.split(" ");
      expect(found.filter((each) => each.text.split(" ")[0] === wire).length).toBeGreaterThanOrEqual(times);
    }
  }
});

it.each(LABEL_SHEETS.flatMap((sheet) => (["flag", "wrap"] as const).map((style) => ({ sheet, style }))))(
  "prints QR codes that a reader reads: $sheet.name, $style",
  async ({ sheet, style }) => {
    const labels = paper("labels", options({ code: true, style, sheet }));
    const placed = labels.parts.find((part): part is PlacedLabels => part.kind === "labels")!;
    const [page] = await pages(labels);
    for (const label of placed.labels.slice(0, 3)) {
      expect(label.code).toMatch(/^W\d+ to .+, from .+/);
      const area = labelArea(sheet, style, true);
      const picture = await drawn(page!, label.x, label.y, MARGIN + area.code + MARGIN, sheet.height);
      expect(jsQR(picture.data, picture.width, picture.height)?.data).toBe(label.code);
      // 18 to 32 bytes are a code of 25 dots (ISO/IEC 18004, version 2, level L), and it fills its room
      expect(label.code!.length).toBeGreaterThan(17);
      expect(label.code!.length).toBeLessThanOrEqual(32);
      expect(area.code / picture.dot).toBeCloseTo(25, 0);
    }
  },
);

/** Filled rectangles of a part of a page (millimetres) as a picture. */
async function drawn(page: PDFPageProxy, x: number, y: number, width: number, height: number) {
  const dots = 24;
  const picture = { width: Math.ceil(width * dots), height: Math.ceil(height * dots) };
  const data = new Uint8ClampedArray(picture.width * picture.height * 4).fill(255);
  let dot = Number.POSITIVE_INFINITY;
  const [, , , top = 0] = page.view;
  const { fnArray, argsArray } = await page.getOperatorList();
  let matrix = [1, 0, 0, 1, 0, 0];
  let isDark = false;
  const stack: number[][] = [];
  for (const [index, operation] of fnArray.entries()) {
    const args = argsArray[index];
    if (operation === OPS.save) stack.push(matrix);
    if (operation === OPS.restore) matrix = stack.pop() ?? matrix;
    if (operation === OPS.transform) matrix = times(matrix, args);
    if (operation === OPS.setFillRGBColor) isDark = /^#000000$/.test(String(args[0]));
    if (operation !== OPS.constructPath || !isDark) continue;
    const [, , box] = args as [number, unknown, Float32Array | null];
    if (!box) continue;
    const [left = 0, low = 0, right = 0, high = 0] = boxOf(matrix, box);
    dot = Math.min(dot, (high - low) / POINT);
    for (let py = Math.round(((top - high) / POINT - y) * dots); py < ((top - low) / POINT - y) * dots; py++)
      for (let px = Math.round((left / POINT - x) * dots); px < (right / POINT - x) * dots; px++) {
        if (px < 0 || py < 0 || px >= picture.width || py >= picture.height) continue;
        data.fill(0, (py * picture.width + px) * 4, (py * picture.width + px) * 4 + 3);
      }
  }
  return { ...picture, data, dot };
}

function times([a, b, c, d, e, f]: number[], [g, h, i, j, k, l]: number[]): number[] {
  return [
    a! * g! + c! * h!,
    b! * g! + d! * h!,
    a! * i! + c! * j!,
    b! * i! + d! * j!,
    a! * k! + c! * l! + e!,
    b! * k! + d! * l! + f!,
  ];
}

function boxOf([a, b, c, d, e, f]: number[], [x1, y1, x2, y2]: ArrayLike<number> & Iterable<number>): number[] {
  const xs = [x1!, x2!].map((x) => a! * x + c! * y1! + e!);
  const ys = [y1!, y2!].map((y) => b! * x1! + d! * y + f!);
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

it("prints every cell of every table, and the headings of its columns again on each page", async () => {
  const schedule = paper("wire-schedule");
  const repeated: Paper = {
    ...schedule,
    parts: schedule.parts.map((part) =>
      part.kind === "table" ? { ...part, rows: Array(9).fill(part.rows).flat() } : part,
    ),
  };
  const all = await Promise.all((await pages(repeated)).map(texts));
  expect(all.length).toBeGreaterThan(2);
  for (const page of all)
    expect(page.map(({ text }) => text)).toEqual(expect.arrayContaining(["Wire", "From", "Colour"]));
  const words = all.flat().map(({ text }) => text);
  for (const wire of derived.loom.wires) {
    expect(words.filter((word) => word === wire.label).length).toBe(9);
    expect(words).toContain(wire.from.name);
  }
});

it("prints letters that its own faces lack", async () => {
  const name = "Žďár Ω Станция";
  const [page] = await pages({ id: "x", title: name, parts: [{ kind: "text", text: name }] });
  expect((await texts(page!)).filter(({ text }) => text === name)).toHaveLength(2);
});

it("writes tables that a spreadsheet reads back, formulas as text", async () => {
  const schedule = paper("wire-schedule");
  const risky: Paper = {
    ...{ id: "x", title: "x" },
    parts: [
      {
        kind: "table",
        name: "a/b: c?",
        columns: [{ title: "=SUM(A1)", kind: "text", share: 1 }],
        rows: [["=1+1"], ["+2"], ["@x"], [3]],
      },
    ],
  };
  const book = await readExcel(Buffer.from(await xlsxOf([schedule, risky])));
  expect(book.map(({ sheet }) => sheet)).toEqual(["wires", "a b  c"]);
  const empty = (rows: unknown[][]) => rows.map((row) => row.map((cell) => (cell === "" ? null : cell)));
  expect(book[0]!.data).toEqual(empty(tablesOf(schedule)[0]!.rows));
  expect(book[1]!.data).toEqual([["=SUM(A1)"], ["=1+1"], ["+2"], ["@x"], [3]]);
});

/** A drawing of a height with its millimetres written down its side. */
const drawnOver = (height: number): Paper => ({
  ...paper("cut-list"),
  parts: [
    {
      kind: "drawing",
      drawing: {
        ...{ width: 100, height, lines: [], shapes: [], circles: [] },
        texts: Array.from({ length: Math.floor(height / 10) }, (_, index) => ({
          ...{ text: `${(index + 1) * 10} mm`, x: 10, y: (index + 1) * 10, size: 3, anchor: "start" as const },
        })),
      },
    },
  ],
});

/** Where the texts of a drawing stand on each page within its edges, millimetres from the top, by their own millimetres. */
async function marksOn(of: Paper, size: PaperHead["size"]): Promise<Map<number, number>[]> {
  const all = await pages(of, { ...HEAD, size });
  return Promise.all(
    all.map(async (page) => {
      const [, , , top = 0] = page.view;
      const found = await texts(page);
      const within = found.filter(
        ({ text, y }) => /^\d+ mm$/.test(text) && y > EDGE.top && y < top / POINT - EDGE.bottom,
      );
      return new Map(within.map(({ text, y }): [number, number] => [Number.parseInt(text, 10), y]));
    }),
  );
}

it("keeps a drawing at true scale that is higher than a page, over several of which each shows the end of the one before", async () => {
  // A4 has 261 mm between its edges, Letter 243 mm
  expect(await marksOn(drawnOver(258), PAPER_SIZES.A4)).toHaveLength(1);
  for (const [height, size] of [
    [258, PAPER_SIZES.Letter],
    [600, PAPER_SIZES.A4],
  ] as const) {
    const shown = await marksOn(drawnOver(height), size);
    expect(shown.length).toBeGreaterThan(1);
    const marks = Array.from({ length: Math.floor(height / 10) }, (_, index) => (index + 1) * 10);
    for (const mark of marks) expect(shown.some((page) => page.has(mark))).toBe(true);
    for (const page of shown) {
      const [[first, at] = [0, 0]] = page;
      // true scale: as far apart on paper as on the board
      for (const [mark, y] of page) expect(y - at).toBeCloseTo(mark - first, 1);
    }
    for (const [index, page] of shown.slice(1).entries()) {
      const before = shown[index]!;
      expect([...page.keys()].some((mark) => before.has(mark))).toBe(true);
    }
  }
});
