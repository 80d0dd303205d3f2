import type { Derived } from "../derive.ts";
import { laidCable } from "../loom/cables.ts";
import { coreColour } from "../loom/colours.ts";
import { JOINT_SHORT, JOINT_WORDS, type JointKind, jointAt } from "../loom/joints.ts";
import { coreEnds, coresOf, wiresByEnd } from "../loom/reach.ts";
import { farEnd, joinedAt, type Loom, screwKey, type Wire } from "../loom/wire.ts";
import { type Cable, type Strip, WIRE_STEPS } from "../record/made.ts";
import { PURPOSES } from "../record/purposes.ts";
import type { Thread } from "../schematic/thread.ts";
import { count } from "../units/format.ts";
import { column, heading, type Paper, type PaperCell, type PaperPart, table } from "./paper.ts";

/** A card for each strip, to hang beside it: what is at each of its ways, and which are spare. */
export function stripCards({ loom }: Derived): Paper {
  const strips = loom.strips.filter(({ kind }) => kind === "screws");
  const parts = strips.flatMap((strip) => stripCard(strip, loom));
  return { id: "strip-cards", title: "Strip cards", parts };
}

const STRIP_COLUMNS = [
  ...[column("Way", "figures", 0.7), column("Wire", "mono", 1), column("Colour", "colour"), column("Goes to", "mono")],
  ...[column("What it is"), column("Joined", "box")],
];

function stripCard(strip: Strip, loom: Loom): PaperPart[] {
  const at = wiresByEnd(loom);
  const { id, label, ways, place, pinAmps } = strip;
  let spare = 0;
  const rows: PaperCell[][] = [];
  for (let way = 1; way <= ways; way++) {
    const key = screwKey(id, way);
    const wires = at.get(key) ?? [];
    if (wires.length === 0) {
      spare++;
      rows.push([way, "", "", "", "spare", ""]);
    }
    for (const [index, wire] of wires.entries()) {
      const { label, colour, purpose, core } = wire;
      const to = core ? `${farEnd(wire, key).name} by ${core.cable}.${core.number}` : farEnd(wire, key).name;
      rows.push([index === 0 ? way : "", label, colour, to, PURPOSES[purpose].about, joinedAt(wire, key) !== null]);
    }
  }
  const where = place === "panel" ? "at the panel" : "under the layout";
  const kind = pinAmps === null ? count(ways, "way") : `plug and socket of ${count(ways, "pin")}, ${pinAmps} A each`;
  return [heading(`Strip ${label}`, `${where}, ${kind}, ${spare} spare`), table(`strip ${label}`, STRIP_COLUMNS, rows)];
}

/** A sheet for each cable: where each of its cores goes, and which are spare. */
export function cableSheets(derived: Derived): Paper {
  const { loom } = derived;
  const parts = loom.cables.flatMap((cable) => cableSheet(derived, cable));
  return { id: "cable-sheets", title: "Cable sheets", parts };
}

const CORE_COLUMNS = [...[column("Core", "figures", 0.7), column("Colour", "colour"), column("Wire", "mono", 1)]];

/** A cable goes from the panel to the layout, a tail from a strip or board to its motors. */
function cableColumns({ tail }: Cable) {
  const [near, far] = tail ? ["Strip", "Motor"] : ["Panel", "Layout"];
  return [
    ...[...CORE_COLUMNS, column(near, "mono", 1.5), column(far, "mono", 1.5), column("What it is")],
    column(tail ? "Strip Motor" : "Panel Under", "boxes", 1.6),
  ];
}

function cableSheet({ record, loom }: Derived, cable: Cable): PaperPart[] {
  const { gauge, metres, colours } = laidCable(record.railway, loom, cable);
  const cores = coresOf(loom, cable.id);
  const rows: PaperCell[][] = [];
  for (let core = 1; core <= cable.cores; core++) {
    const wire = cores.get(core);
    if (!wire) {
      rows.push([core, coreColour(colours, core), "", "", "", "spare", []]);
      continue;
    }
    const { near, far } = coreEnds(cable, wire);
    rows.push([
      ...[core, wire.colour, wire.label, near.name, far.name, PURPOSES[wire.purpose].about],
      [joinedAt(wire, near.key) !== null, joinedAt(wire, far.key) !== null],
    ]);
  }
  const about = `${count(cable.cores, "core")} of ${gauge}, ${metres} m, ${cable.cores - cores.size} spare`;
  return [
    heading(`${cable.tail ? "Tail" : "Cable"} ${cable.label}`, about),
    table(`cable ${cable.label}`, cableColumns(cable), rows),
  ];
}

const CONNECTIONS = [
  ...[
    column("Wire", "mono", 1.1),
    column("Colour", "colour"),
    column("Cut mm", "figures"),
    column("From", "mono"),
    column("how"),
  ],
  ...[column("To", "mono"), column("how"), column("Cut Flags From To Test", "boxes")],
];

/** A sheet for each turnout: its wires from the panel to the track, with boxes for the work; those for no turnout first. */
export function connectionSheets(derived: Derived, threads: readonly Thread[], isWhole: boolean): Paper {
  const { record, loom } = derived;
  const groups: { title: string; about: string; wires: Wire[] }[] = [];
  if (isWhole) {
    const wires = loom.wires.filter(({ turnoutId }) => turnoutId === null);
    groups.push({ title: "Boards and supplies", about: "", wires });
  }
  for (const { turnout, followers, label } of threads) {
    const ids = new Set([turnout, ...followers].map(({ id }) => id));
    const wires = loom.wires.filter(({ turnoutId }) => turnoutId !== null && ids.has(turnoutId));
    groups.push({ title: `Turnout ${label}`, about: turnout.name, wires });
  }
  const filled = groups.filter(({ wires }) => wires.length > 0);
  const kinds = new Set(
    filled.flatMap(({ wires }) => wires.flatMap(({ from, to }) => [jointAt(record, from), jointAt(record, to)])),
  );
  const parts = filled.flatMap(({ title, about, wires }, index): PaperPart[] => {
    const rows = [...wires]
      .sort((a, b) => RUNS.indexOf(a.run) - RUNS.indexOf(b.run) || a.number - b.number)
      .map(({ label, colour, cutMetres, from, to, fact }): PaperCell[] => [
        ...[label, colour, Math.round(cutMetres * 1000), from.name, JOINT_SHORT[jointAt(record, from)]],
        ...[to.name, JOINT_SHORT[jointAt(record, to)], WIRE_STEPS.map((step) => Boolean(fact?.[step]))],
      ]);
    return [heading(title, about, index > 0), table(title, CONNECTIONS, rows)];
  });
  const how = [...kinds].map((kind: JointKind) => JOINT_WORDS[kind]).sort();
  const hints = how.map(
    (text): PaperPart => ({ kind: "text", text: `${text.charAt(0).toUpperCase()}${text.slice(1)}.` }),
  );
  return {
    id: "connection-sheets",
    title: "Connection sheets",
    parts: [...parts, ...(how.length > 0 ? [heading("How to join"), ...hints] : [])],
  };
}

const RUNS: readonly Wire["run"][] = ["panel", "cable", "layout"];

/** A card for the panel's back: each control and lamp with what it works, and where each of its terminals goes. */
export function legendCard({ record, loom, schematic, addresses }: Derived): Paper {
  const threadsOfDevice = new Map<string, Set<string>>();
  const say = (id: string, words: string) => threadsOfDevice.set(id, (threadsOfDevice.get(id) ?? new Set()).add(words));
  for (const thread of schematic.threads) {
    for (const control of [thread.control, ...thread.moreControls])
      if (control) say(control.device.id, `throws ${thread.label}`);
    for (const lamp of thread.lamps) say(lamp.device.id, `tells of ${thread.label}`);
  }
  const addressOf = new Map<string, number[]>();
  for (const { turnoutIds, address } of addresses)
    for (const id of turnoutIds) addressOf.set(id, [...(addressOf.get(id) ?? []), address]);
  const ofDevice = new Map<string, { key: string; name: string; wire: Wire }[]>();
  for (const wire of loom.wires)
    for (const { key, name, of, place } of [wire.from, wire.to])
      if (of && place === "panel")
        ofDevice.set(of.deviceId, [...(ofDevice.get(of.deviceId) ?? []), { key, name, wire }]);
  const devices = record.devices
    .filter(({ place }) => place === "panel")
    .sort((a, b) => BY_LABEL.compare(a.label, b.label));
  const rows = devices.flatMap(({ id, label }) => {
    const words = [...(threadsOfDevice.get(id) ?? [])].join(", ");
    const ends = (ofDevice.get(id) ?? []).sort((a, b) => BY_LABEL.compare(a.name, b.name));
    if (ends.length === 0) return [[label, words, "", "", "", ""]];
    return ends.map(({ key, name, wire }, index): PaperCell[] => [
      ...[index === 0 ? label : "", index === 0 ? words : "", name, wire.label, wire.colour, farEnd(wire, key).name],
    ]);
  });
  const columns = [
    ...[column("Control", "mono", 1.2), column("What it does"), column("Terminal", "mono"), column("Wire", "mono", 1)],
    ...[column("Colour", "colour"), column("Goes to", "mono")],
  ];
  const numbers = schematic.threads.flatMap(({ turnout, label }) => {
    const own = addressOf.get(turnout.id) ?? [];
    return own.length === 0 ? [] : [[label, turnout.name, [...new Set(own)].join(", ")]];
  });
  const parts: PaperPart[] = [table("legend", columns, rows)];
  if (numbers.length > 0)
    parts.push(
      heading("Addresses"),
      table("addresses", [column("Turnout", "mono"), column("Name"), column("Address", "mono")], numbers),
    );
  return { id: "legend-card", title: "Card for the panel's back", parts };
}

const BY_LABEL = new Intl.Collator("en", { numeric: true });
