// Puts railways made each for itself side by side in one, with labels of their own.
import {
  type Assignment,
  Draft,
  edit,
  emptyRecord,
  findType,
  putEdit,
  type RailwayRecord,
  setAddress,
  standingOfWire,
  type Turnout,
} from "@alderman/core";

export interface Exhibit {
  /** What the turnout's name says. */
  name: string;
  record: RailwayRecord;
}

/** Labels that are the name of something else. */
const TAKEN = new Set(["B" + "D4"]);

/** How far below the first the line of an exhibit lies, steps. */
function below(index: number): number {
  return index * 16;
}

/** One railway of many, each with its own devices; turnouts are numbered in the order given, 1 and 1b for two of one exhibit. */
export function merged(title: string, note: string, exhibits: readonly Exhibit[]): RailwayRecord {
  const result = emptyRecord(title);
  result.railway.note = note;
  const counters = new Map<string, number>();
  let wires = 0;
  const edits = exhibits.flatMap(({ name, record }, index) => {
    const number = index + 1;
    const orders = record.turnouts.map(({ order }) => order).sort((a, b) => a - b);
    const place = (order: number) => orders.indexOf(order);
    const id = (old: string) => `x${number}-${old}`.slice(0, 40);
    const turnoutLabel = ({ order }: Turnout) =>
      `${number}${"_bcdefghijklmnopqrstuvwxyz"[place(order)]?.replace("_", "") ?? ""}`;
    const labels = new Map(record.turnouts.map((turnout) => [turnout.label, turnoutLabel(turnout)]));
    const next = (prefix: string) => {
      let count = (counters.get(prefix) ?? 0) + 1;
      if (TAKEN.has(`${prefix}${count}`)) count++;
      counters.set(prefix, count);
      return `${prefix}${count}`;
    };
    const labelOf = (label: string, prefix: string) => {
      const turnout = [...labels].find(([old]) => label === old || label === `${old}F`);
      return turnout ? label.replace(turnout[0], turnout[1]) : next(prefix);
    };
    const pointing = (assignment: Assignment): Assignment =>
      Object.fromEntries(
        Object.entries(assignment).map(([field, value]) => [
          field,
          (field === "id" || field.endsWith("Id")) && typeof value === "string" ? id(value) : value,
        ]),
      ) as unknown as Assignment;
    return [
      ...record.types.map((type) => putEdit("type", { ...type, id: id(type.id) })),
      // one line below the other
      ...record.tracks.map((track) =>
        putEdit("track", { ...track, id: id(track.id), points: track.points.map(([x, y]) => [x, y + below(index)]) }),
      ),
      ...record.spots.map((spot) =>
        putEdit("spot", { ...spot, id: id(spot.id), turnoutId: id(spot.turnoutId), y: spot.y + below(index) }),
      ),
      ...record.marks.map((mark) => {
        const moved = { ...mark, id: id(mark.id), y: mark.y + below(index) };
        if ("toY" in moved) moved.toY += below(index);
        if ("deviceId" in moved && moved.deviceId) moved.deviceId = id(moved.deviceId);
        if (moved.what === "block") moved.name = `${moved.name} ${number}`;
        return putEdit("mark", moved);
      }),
      ...record.outlines.map((outline) =>
        putEdit("outline", {
          ...outline,
          id: id(outline.id),
          points: outline.points.map(([x, y]) => [x, y + below(index)]),
        }),
      ),
      ...record.zones.map((zone) => putEdit("zone", { ...zone, id: id(zone.id), label: `${zone.label}${number}` })),
      ...record.turnouts.map((turnout) =>
        putEdit("turnout", {
          ...turnout,
          zoneId: turnout.zoneId && id(turnout.zoneId),
          id: id(turnout.id),
          label: turnoutLabel(turnout),
          name: place(turnout.order) > 0 ? "" : name,
          movesWith: turnout.movesWith && id(turnout.movesWith),
          order: index * 10 + turnout.order,
        }),
      ),
      ...record.devices.map((device) =>
        putEdit("device", {
          ...device,
          id: id(device.id),
          typeId: record.types.some((type) => type.id === device.typeId) ? id(device.typeId) : device.typeId,
          label: labelOf(device.label, findType(record, device.typeId)?.prefix ?? "X"),
        }),
      ),
      ...record.layings.map((laying) =>
        putEdit("laying", { ...laying, id: id(laying.id), deviceId: id(laying.deviceId) }),
      ),
      ...record.customs.map((custom) =>
        putEdit("custom", { ...custom, id: id(custom.id), deviceId: custom.deviceId && id(custom.deviceId) }),
      ),
      ...madeOf(record, id, next, () => ++wires),
      ...record.assignments.map((assignment) => {
        const now = pointing(assignment);
        // a block of the line has another name in each exhibit
        const isDrawn = now.role === "block" && record.marks.some(({ what }) => what === "block");
        return putEdit("assignment", isDrawn ? { ...now, block: `${now.block} ${number}` } : now);
      }),
      ...record.routes.map((route) =>
        putEdit("route", {
          ...route,
          id: id(route.id),
          label: `${route.label} ${number}`,
          order: index * 100 + route.order,
        }),
      ),
      ...record.routeTurnouts.map((each) =>
        putEdit("routeTurnout", { ...each, id: id(each.id), routeId: id(each.routeId), turnoutId: id(each.turnoutId) }),
      ),
      ...record.routeControls.map((each) =>
        putEdit("routeControl", {
          ...each,
          id: id(each.id),
          routeId: id(each.routeId),
          deviceId: id(each.deviceId),
          throughId: each.throughId && id(each.throughId),
        }),
      ),
      ...record.boardParts.map((part) =>
        putEdit("boardPart", { ...part, id: id(part.id), deviceId: id(part.deviceId) }),
      ),
      ...record.settings.map((setting) =>
        putEdit("setting", { ...setting, id: id(setting.id), deviceId: id(setting.deviceId) }),
      ),
      ...record.answers.map((answer) =>
        putEdit("answer", { ...answer, id: id(answer.id), deviceId: id(answer.deviceId) }),
      ),
      ...record.events.map((event) =>
        putEdit("event", {
          ...event,
          id: id(event.id),
          label: `${event.label} ${number}`,
          nodeId: event.nodeId && id(event.nodeId),
        }),
      ),
      ...record.producers.map((each) =>
        putEdit("producer", { ...each, id: id(each.id), eventId: id(each.eventId), deviceId: id(each.deviceId) }),
      ),
      ...record.consumers.map((each) =>
        putEdit("consumer", { ...each, id: id(each.id), eventId: id(each.eventId), deviceId: id(each.deviceId) }),
      ),
      ...record.taught.map((each) => putEdit("taught", { ...each, id: id(each.id), deviceId: id(each.deviceId) })),
      ...record.senses.map((sense) => putEdit("sense", { ...sense, id: id(sense.id), deviceId: id(sense.deviceId) })),
      ...record.facts.map((fact) =>
        putEdit("fact", {
          ...fact,
          id: id(fact.id),
          typeId: fact.typeId && id(fact.typeId),
          deviceId: fact.deviceId && id(fact.deviceId),
        }),
      ),
    ];
  });
  return addressed(edit(result, edits).record);
}

/** The wires of an exhibit that are facts, with the strips and cables that they are at. */
function madeOf(
  { wires, strips, cables }: RailwayRecord,
  id: (old: string) => string,
  next: (prefix: string) => string,
  number: () => number,
) {
  const firm = wires.filter((wire) => ["made", "kept"].includes(standingOfWire(wire)));
  const used = new Set(firm.flatMap(({ fromStripId, toStripId, cableId }) => [fromStripId, toStripId, cableId]));
  const renamed = <T extends { id: string; label: string; zoneId: string | null }>(thing: T): T => ({
    ...thing,
    id: id(thing.id),
    label: next(thing.label.replace(/\d+$/, "")),
    zoneId: thing.zoneId && id(thing.zoneId),
  });
  return [
    ...strips.flatMap((strip) => (used.has(strip.id) ? [putEdit("strip", renamed(strip))] : [])),
    ...cables.flatMap((cable) => (used.has(cable.id) ? [putEdit("cable", renamed(cable))] : [])),
    ...firm.map((wire) =>
      putEdit("wire", {
        ...wire,
        id: id(wire.id),
        number: number(),
        fromDeviceId: wire.fromDeviceId && id(wire.fromDeviceId),
        fromStripId: wire.fromStripId && id(wire.fromStripId),
        toDeviceId: wire.toDeviceId && id(wire.toDeviceId),
        toStripId: wire.toStripId && id(wire.toStripId),
        cableId: wire.cableId && id(wire.cableId),
      }),
    ),
  ];
}

/** Every output of every decoder gets an address of its own. */
function addressed(record: RailwayRecord): RailwayRecord {
  const draft = new Draft(record);
  let address = 1;
  for (const device of record.devices) {
    const type = findType(record, device.typeId);
    if (!type?.figures.factoryAddress) continue;
    for (let way = 1; way <= Math.max(1, type.outputs); way++) {
      // an address that an exhibit is about stays
      const stated = record.assignments.some((a) => a.role === "address" && a.deviceId === device.id && a.way === way);
      if (!stated) setAddress(draft, device.id, way, address++);
    }
  }
  return edit(record, draft.edits).record;
}
