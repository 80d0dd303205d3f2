import {
  type Cable,
  coreColour,
  coreEnds,
  coresOf,
  type Loom,
  laidCable,
  type RailwayRecord,
  type Strip,
  screwIdOf,
  screwKey,
  type Wire,
  type WireColour,
  type WireGroups,
  wiresByEnd,
} from "@alderman/core";

/** Height of a way, and of what stands above a strip. */
export const ROW = 23;
const ABOVE = 24;
const TOP = 28;
const GAP = 16;

/** A way of a strip, or a terminal of a board or motor, as it is drawn. */
export interface WayPlan {
  /** Its number, or what is written beside the terminal. */
  text: string;
  key: string;
  name: string;
  y: number;
  /** Wires other than cores that end there. */
  tails: Wire[];
  /** Core of another cable that ends there. */
  other: Wire | null;
  /** A core of the cable that is drawn ends there. */
  isEnd: boolean;
  isSpare: boolean;
}

/** A strip as it is drawn, all its ways one below the other; or of a board or motor the terminals to which a tail goes. */
export interface BlockPlan {
  id: string;
  title: string;
  strip: Strip | null;
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
  nearY: number | null;
  farY: number | null;
}

export interface LoomPlan {
  /** What stands to the left and to the right: the panel and the layout; of a tail, where it begins and its motors. */
  near: BlockPlan[];
  far: BlockPlan[];
  cores: CorePlan[];
  /** Heights between which the jacket is drawn; null for a strip by itself. */
  jacket: { from: number; to: number } | null;
  /** The cable is laid, or a core of it is cut. */
  isThere: boolean;
  height: number;
}

/** From one core to the next within the cable's jacket, half of which is not less, and from one spare core to the next. */
const LANE = 8;
const LEAST_HALF = 22;
const SPARE_ROW = 14;

/**
 * Where everything of a cable's drawing stands: what its cores end on, and its cores, spare ones too. Strips are drawn as a
 * whole, but for those where tails begin.
 */
export function cableLayout({ railway, devices }: RailwayRecord, loom: Loom, cable: Cable): LoomPlan {
  const cores = coresOf(loom, cable.id);
  const ends = new Map([...cores].map(([number, wire]) => [number, coreEnds(cable, wire)]));
  const labelOf = (id: string) => devices.find((device) => device.id === id)?.label ?? id;
  const blocks = (side: "near" | "far") =>
    blocksOf(
      [...ends.values()].map((each) => each[side]),
      loom,
      labelOf,
      cable,
    );
  const [near, far] = [blocks("near"), blocks("far")];
  const height = Math.max(bottom(near), bottom(far), TOP + cable.cores * LANE + 60);
  const heights = new Map([...near, ...far].flatMap(({ ways }) => ways.map(({ key, y }) => [key, y] as const)));
  const used = [...ends.values()].flatMap(({ near, far }) => [near, far].flatMap(({ key }) => heights.get(key) ?? []));
  const middle = used.length > 0 ? (Math.min(...used) + Math.max(...used)) / 2 : height / 2;
  const { colours } = laidCable(railway, loom, cable);
  const numbers = Array.from({ length: cable.cores }, (_, index) => index + 1);
  const lanes = numbers.filter((number) => cores.has(number));
  const half = Math.max((lanes.length * LANE) / 2, LEAST_HALF);
  const spare = numbers.filter((number) => !cores.has(number));
  const below = middle + half + SPARE_ROW + spare.length * SPARE_ROW;
  return {
    ...{ near, far },
    height: Math.max(height, below),
    isThere: cable.laidAt !== null || [...cores.values()].some(isMade),
    jacket: { from: middle - half, to: middle + half },
    cores: numbers.map((number): CorePlan => {
      const wire = cores.get(number) ?? null;
      const yAt = (side: "near" | "far") => heights.get(ends.get(number)?.[side].key ?? "") ?? null;
      return {
        ...{ number, wire, colour: wire?.colour ?? coreColour(colours, number) },
        // those in use pass through the jacket, spare ones are listed below it
        y: wire
          ? middle + (lanes.indexOf(number) - (lanes.length - 1) / 2) * LANE
          : middle + half + SPARE_ROW * (spare.indexOf(number) + 1),
        ...{ nearY: yAt("near"), farY: yAt("far") },
      };
    }),
  };
}

/** Where everything of a strip's drawing stands, by itself: on the left that of the panel, on the right one under the layout. */
export function stripLayout(loom: Loom, strip: Strip): LoomPlan {
  const block = stripBlock(strip, TOP + ABOVE, wiresByEnd(loom), null);
  const isPanel = strip.place === "panel";
  const [near, far] = [isPanel ? [block] : [], isPanel ? [] : [block]];
  return { near, far, cores: [], jacket: null, isThere: block.isThere, height: bottom([block]) };
}

/** What some ends of cores are on, one below the other: strips, then boards or motors by the terminals in use. */
function blocksOf(
  ends: readonly Wire["from"][],
  loom: Loom,
  labelOf: (deviceId: string) => string,
  cable: Cable,
): BlockPlan[] {
  const at = wiresByEnd(loom);
  const strips = new Set(ends.flatMap(({ of, key }) => (of ? [] : [screwIdOf(key)])));
  const terminals = new Map<string, Wire["from"][]>();
  for (const end of ends) if (end.of) terminals.set(end.of.deviceId, [...(terminals.get(end.of.deviceId) ?? []), end]);
  const blocks: BlockPlan[] = [];
  let y = TOP;
  const add = (make: (top: number) => BlockPlan) => {
    const block = make(y + ABOVE);
    blocks.push(block);
    y = block.y + block.ways.length * ROW + GAP;
  };
  for (const strip of loom.strips) if (strips.has(strip.id)) add((top) => stripBlock(strip, top, at, cable));
  for (const [id, own] of terminals) {
    add((top) => {
      const ways = own.map(({ key, name, of }, index) =>
        wayPlan({ text: of?.terminal ?? "", key, name }, top + index * ROW + ROW / 2, at.get(key) ?? [], cable.id),
      );
      const isThere = ways.some(({ key }) => (at.get(key) ?? []).some(isMade));
      return { id, title: labelOf(id), strip: null, y: top, ways, isThere };
    });
  }
  return blocks;
}

function stripBlock(strip: Strip, top: number, at: WireGroups, cable: Cable | null): BlockPlan {
  const isOf = ({ core }: Wire) => core !== null && core.cableId === cable?.id;
  const all = Array.from({ length: strip.ways }, (_, index) => index + 1);
  // of the strip where a tail begins, only the ways that are its own
  const own = cable?.tail ? all.filter((way) => at.get(screwKey(strip.id, way))?.some(isOf)) : all;
  const ways = own.map((way, index) => {
    const key = screwKey(strip.id, way);
    const name = strip.kind !== "screws" ? strip.label : `${strip.label}-${way}`;
    const y = top + index * ROW + ROW / 2;
    return wayPlan({ text: String(way), key, name }, y, at.get(key) ?? [], cable?.id ?? null);
  });
  const isThere = strip.fixedAt !== null || ways.some(({ key }) => (at.get(key) ?? []).some(isMade));
  return { id: strip.id, title: strip.label, strip, y: top, ways, isThere };
}

function wayPlan(
  end: Pick<WayPlan, "text" | "key" | "name">,
  y: number,
  wires: readonly Wire[],
  cableId: string | null,
): WayPlan {
  return {
    ...end,
    y,
    tails: wires.filter(({ core }) => !core),
    other: wires.find(({ core }) => core && core.cableId !== cableId) ?? null,
    isEnd: wires.some(({ core }) => core !== null && core.cableId === cableId),
    isSpare: wires.length === 0,
  };
}

function isMade({ standing }: Wire): boolean {
  return standing === "made";
}

function bottom(blocks: readonly BlockPlan[]): number {
  const last = blocks.at(-1);
  return last ? last.y + last.ways.length * ROW + 10 : 0;
}
