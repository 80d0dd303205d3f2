import type { BuildSheet, Placed } from "./buildSheet.ts";

/** A drawing at true scale, in millimetres from its left upper corner: the same for the screen, for SVG and for paper. */
export interface Drawing {
  width: number;
  height: number;
  lines: { points: [x: number, y: number][]; width: number }[];
  /** Filled shapes; white ones cover what lies below. */
  shapes: { points: [x: number, y: number][]; fill: "ink" | "white"; outline: number }[];
  circles: { x: number; y: number; radius: number }[];
  texts: { text: string; x: number; y: number; size: number; anchor: "start" | "middle" | "end" }[];
}

type Point = [x: number, y: number];

/** Millimetres from one terminal to the next: strips of small terminals (common practice). */
export const PITCH = 5.08;
/** Between the two rows of terminals, and where many parts have to lie there; beside them, above and below. */
const ACROSS = 70;
const ACROSS_MANY = 100;
const MANY = 60;
const EDGE = { side: 46, top: 8, foot: 16 };
/** Shares of a link's length at which its body may lie, the middle first. */
const SHARES = Array.from(
  { length: 29 },
  (_, index) => 0.5 + (index % 2 === 0 ? 1 : -1) * Math.ceil(index / 2) * 0.025,
);
/** Millimetres between the middles of two bodies that are clear of each other. */
const CLEAR = 6;
/** The ruler by which a print is checked. */
const RULER = 100;

/** The board of a build sheet between its two rows of terminals, with a ruler of 100 mm. */
export function boardDrawing({ left, right, placed }: BuildSheet): Drawing {
  const rows = Math.max(left.length, right.length);
  const across = placed.length > MANY ? ACROSS_MANY : ACROSS;
  const width = Math.max(across, RULER) + 2 * EDGE.side;
  const from = (width - across) / 2;
  const at = (index: number) => EDGE.top + index * PITCH;
  const drawing: Drawing = {
    ...{ width, height: at(rows) + EDGE.foot },
    ...{ lines: [], shapes: [], circles: [], texts: [] },
  };
  const terminal = (name: string, x: number, index: number, anchor: "start" | "end") => {
    const y = at(index);
    drawing.circles.push({ x, y, radius: 1.3 });
    drawing.lines.push({
      points: [
        [x - 0.8, y],
        [x + 0.8, y],
      ],
      width: 0.3,
    });
    drawing.texts.push({ text: name, x: x + (anchor === "end" ? -2.6 : 2.6), y: y + 1, size: 2.8, anchor });
  };
  for (const [index, name] of left.entries()) terminal(name, from, index, "end");
  for (const [index, name] of right.entries()) terminal(name, from + across, index, "start");
  const bodies: Point[] = [];
  for (const part of placed) {
    const ends: [Point, Point] = [
      [from + 1.3, at(part.left)],
      [from + across - 1.3, at(part.right)],
    ];
    const middle = freest(ends, bodies);
    bodies.push(middle);
    drawPart(drawing, part, ends, middle);
  }
  drawRuler(drawing, (width - RULER) / 2, at(rows) + 4);
  return drawing;
}

/** Where along a link its body lies clear of those drawn before, or as clear as may be; near the middle where there is a choice. */
function freest([a, b]: [Point, Point], bodies: readonly Point[]): Point {
  const places = SHARES.map((share): Point => [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share]);
  const clear = places.map(([x, y]) =>
    bodies.reduce((least, body) => Math.min(least, Math.hypot(x - body[0], y - body[1])), CLEAR),
  );
  return places[clear.indexOf(Math.max(...clear))] as Point;
}

/** A wire, or a diode with its body and the band at its cathode. */
function drawPart(drawing: Drawing, { number, with: by, turned }: Placed, [a, b]: [Point, Point], [x, y]: Point): void {
  drawing.lines.push({ points: [a, b], width: by === "wire" ? 0.7 : 0.35 });
  const angle = Math.atan2(b[1] - a[1], b[0] - a[0]);
  const turn = (dx: number, dy: number): Point => [
    x + dx * Math.cos(angle) - dy * Math.sin(angle),
    y + dx * Math.sin(angle) + dy * Math.cos(angle),
  ];
  const box = (x1: number, y1: number, x2: number, y2: number) => [
    turn(x1, y1),
    turn(x2, y1),
    turn(x2, y2),
    turn(x1, y2),
  ];
  if (by === "diode") {
    drawing.shapes.push({ points: box(-2.6, -1.3, 2.6, 1.3), fill: "white", outline: 0.3 });
    const band = turned ? -2 : 1.3;
    drawing.shapes.push({ points: box(band, -1.3, band + 0.7, 1.3), fill: "ink", outline: 0 });
  } else drawing.shapes.push({ points: box(-1.7, -1.2, 1.7, 1.2), fill: "white", outline: 0 });
  const [textX, textY] = turn(by === "diode" ? (turned ? 0.6 : -0.6) : 0, 0);
  drawing.texts.push({ text: String(number), x: textX, y: textY + 0.8, size: 2.2, anchor: "middle" });
}

function drawRuler(drawing: Drawing, x: number, y: number): void {
  drawing.lines.push({
    points: [
      [x, y],
      [x + RULER, y],
    ],
    width: 0.25,
  });
  for (let mark = 0; mark <= RULER; mark += 10)
    drawing.lines.push({
      points: [
        [x + mark, y],
        [x + mark, y + (mark % 50 === 0 ? 3 : 1.8)],
      ],
      width: 0.25,
    });
  drawing.texts.push({ text: `${RULER} mm`, x: x + RULER, y: y + 6.4, size: 2.8, anchor: "end" });
}
