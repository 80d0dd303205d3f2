import { typeOf } from "../catalogue/catalogue.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { isJunction } from "../record/made.ts";
import { WIRE_COLOURS } from "../units/wireColours.ts";
import { laidCable } from "./cables.ts";
import { JOINT_SHORT, type JointKind, jointAt } from "./joints.ts";
import { type Loom, screwIdOf, type WireEnd } from "./wire.ts";

/** A sum with what it is made of. */
export interface Total {
  id: string;
  name: string;
  /** Metres, or nothing for what is counted. */
  unit: "m" | "";
  sum: number;
  parts: { name: string; count: number }[];
}

/** Sums over a loom: strips, ways, cores, metres, lamps, tails, joints by place; each with what adds up to it. */
export function totalsOf(record: RailwayRecord, loom: Loom): Total[] {
  const total = (id: string, name: string, unit: Total["unit"] = "") => new Adding(id, name, unit);
  const strips = total("strips", "Strips");
  const ways = total("ways", "Ways in use");
  const cores = total("cores", "Cores in use");
  const wire = total("wire", "Single wire, to cut", "m");
  const cable = total("cable", "Cable, to cut", "m");
  const lamps = total("lamps", "Lamps");
  const tails = total("tails", "Tails at the panel", "m");
  const joints = {
    bench: total("bench", "Joints at the bench"),
    front: total("front", "Joints in front"),
    underneath: total("underneath", "Joints underneath"),
  };
  const { railway } = record;
  const labelOf = new Map(loom.strips.map(({ id, label }) => [id, label]));
  for (const { kind, ways, pinAmps } of loom.strips)
    strips.add(
      kind !== "screws" ? `${kind}s` : pinAmps === null ? `strips of ${ways} ways` : `plugs of ${ways} pins`,
      1,
    );
  const seen = new Set<string>();
  const seeEnd = (end: WireEnd) => {
    const kind: JointKind = jointAt(record, end);
    joints[end.work].add(JOINT_SHORT[kind], 1);
    if (end.of || seen.has(end.key)) return;
    seen.add(end.key);
    const strip = find(record, "strip", screwIdOf(end.key));
    if (!strip || !isJunction(strip)) ways.add(`on ${labelOf.get(screwIdOf(end.key)) ?? ""}`, 1);
  };
  for (const { from, to, core, run, colour, gauge, cutMetres } of loom.wires) {
    seeEnd(from);
    seeEnd(to);
    if (core) cores.add(`of ${core.cable}`, 1);
    else wire.add(`${WIRE_COLOURS[colour]}, ${gauge}`, cutMetres);
    if (run === "panel") tails.add([from, to].every(({ of }) => of) ? "from one to the next" : "to a strip", cutMetres);
  }
  for (const each of loom.cables) cable.add(each.label, laidCable(railway, loom, each).cutMetres);
  for (const device of record.devices) {
    const type = typeOf(record, device);
    if (type.family === "lamp") lamps.add(type.name, 1);
  }
  return [strips, ways, cores, wire, cable, lamps, tails, ...Object.values(joints)].map((adding) => adding.total);
}

/** A total in the making. */
class Adding {
  private readonly parts = new Map<string, number>();

  constructor(
    private readonly id: string,
    private readonly name: string,
    private readonly unit: Total["unit"],
  ) {}

  add(name: string, count: number): void {
    this.parts.set(name, (this.parts.get(name) ?? 0) + count);
  }

  get total(): Total {
    const { id, name, unit } = this;
    const round = (value: number) => Math.round(value * 100) / 100;
    const parts = [...this.parts].map(([name, count]) => ({ name, count: round(count) }));
    return { id, name, unit, parts, sum: round(parts.reduce((sum, { count }) => sum + count, 0)) };
  }
}
