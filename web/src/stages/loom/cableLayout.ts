import {
  type Cable,
  coreColour,
  coresOf,
  type Loom,
  laidCable,
  type RailwayRecord,
  type Strip,
  screwIdOf,
  screwKey,
  type Wire,
  type WireColour,
  wiresByEnd,
} from "@alderman/core";

/** Height of a way, and of what stands above a strip. */
export const ROW = 23;
const ABOVE = 24;
const TOP = 28;
const GAP = 16;

/** A way of a strip as it is drawn. */
export interface WayPlan {
  way: number;
  key: string;
  name: string;
  y: number;
  /** Wires other than cores that end there. */
  tails: Wire[];
  /** Core of another cable that ends there. */
  other: Wire | null;
  isSpare: boolean;
}

/** A strip as it is drawn, all its ways one below the other. */
export interface StripPlan {
  strip: Strip;
  y: number;
  ways: WayPlan[];
  /** It is fixed, or something is made at it. */
  isThere: boolean;
}

/** A core as it is drawn: where it passes through the cable's middle, and at which heights it ends. */
export interface CorePlan {
  number: number;
  colour: WireColour;
  wire: Wire | null;
  y: number;
  panelY: number | null;
  layoutY: number | null;
}

export interface CablePlan {
  panel: StripPlan[];
  layout: StripPlan[];
  cores: CorePlan[];
  /** Heights between which the jacket is drawn. */
  jacket: { from: number; to: number };
  /** It is laid, or a core of it is cut. */
  isThere: boolean;
  /** The middle of the cable. */
  middle: number;
  height: number;
}

/** From one core to the next within the cable's jacket, half of which is not less, and from one spare core to the next. */
const LANE = 8;
const LEAST_HALF = 22;
const SPARE_ROW = 14;

/** Where everything of a cable's drawing stands: the whole strips on which its cores end, its cores, spare ones too. */
export function cableLayout({ railway }: RailwayRecord, loom: Loom, cable: Cable): CablePlan {
  const cores = coresOf(loom, cable.id);
  const at = wiresByEnd(loom);
  const panel = stripsOf("panel", loom.strips, cores, at, cable.id);
  const layout = stripsOf("layout", loom.strips, cores, at, cable.id);
  const height = Math.max(bottom(panel), bottom(layout), TOP + cable.cores * LANE + 60);
  const heights = new Map([...panel, ...layout].flatMap(({ ways }) => ways.map(({ key, y }) => [key, y] as const)));
  const used = [...cores.values()].flatMap(({ from, to }) =>
    [heights.get(from.key) ?? [], heights.get(to.key) ?? []].flat(),
  );
  const middle = used.length > 0 ? (Math.min(...used) + Math.max(...used)) / 2 : height / 2;
  const { colours } = laidCable(railway, cable);
  const numbers = Array.from({ length: cable.cores }, (_, index) => index + 1);
  const lanes = numbers.filter((number) => cores.has(number));
  const half = Math.max((lanes.length * LANE) / 2, LEAST_HALF);
  const spare = numbers.filter((number) => !cores.has(number));
  const below = middle + half + SPARE_ROW + spare.length * SPARE_ROW;
  return {
    ...{ panel, layout, middle },
    height: Math.max(height, below),
    isThere: cable.laidAt !== null || [...cores.values()].some(isMade),
    jacket: { from: middle - half, to: middle + half },
    cores: numbers.map((number): CorePlan => {
      const wire = cores.get(number) ?? null;
      const ends = wire && [wire.from, wire.to];
      const yAt = (place: Strip["place"]) => {
        const end = ends?.find((each) => each.place === place);
        return end ? (heights.get(end.key) ?? null) : null;
      };
      return {
        ...{ number, wire, colour: wire?.colour ?? coreColour(colours, number) },
        // those in use pass through the jacket, spare ones are listed below it
        y: wire
          ? middle + (lanes.indexOf(number) - (lanes.length - 1) / 2) * LANE
          : middle + half + SPARE_ROW * (spare.indexOf(number) + 1),
        ...{ panelY: yAt("panel"), layoutY: yAt("layout") },
      };
    }),
  };
}

/** The strips of a side on which a cable's cores end, one below the other. */
function stripsOf(
  place: Strip["place"],
  strips: readonly Strip[],
  cores: ReadonlyMap<number, Wire>,
  at: ReadonlyMap<string, readonly Wire[]>,
  cableId: string,
): StripPlan[] {
  const touched = new Set(
    [...cores.values()].flatMap(({ from, to }) => [from, to].flatMap(({ of, key }) => (of ? [] : [screwIdOf(key)]))),
  );
  let y = TOP;
  return strips.flatMap((strip): StripPlan[] => {
    if (strip.place !== place || !touched.has(strip.id)) return [];
    y += ABOVE;
    const top = y;
    y += strip.ways * ROW + GAP;
    const ways = Array.from({ length: strip.ways }, (_, index): WayPlan => {
      const key = screwKey(strip.id, index + 1);
      const wires = at.get(key) ?? [];
      return {
        ...{ way: index + 1, key, name: strip.kind === "splice" ? strip.label : `${strip.label}-${index + 1}` },
        y: top + index * ROW + ROW / 2,
        tails: wires.filter(({ core }) => !core),
        other: wires.find(({ core }) => core && core.cableId !== cableId) ?? null,
        isSpare: wires.length === 0,
      };
    });
    const isThere = strip.fixedAt !== null || ways.some(({ key }) => (at.get(key) ?? []).some(isMade));
    return [{ strip, y: top, ways, isThere }];
  });
}

function isMade({ standing }: Wire): boolean {
  return standing === "made";
}

function bottom(strips: readonly StripPlan[]): number {
  const last = strips.at(-1);
  return last ? last.y + last.ways.length * ROW + 10 : 0;
}
