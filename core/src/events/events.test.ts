// Events of a control bus: what is proposed, what is wanted, what was taught, and what the circuit does by it.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway, remedied } from "../../testing/build.ts";
import { lampOnNode, onBus, readBy } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { setPlainInput } from "../equip/plainInputs.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { EVENT_ACTIONS, type EventAction } from "../record/numbers.ts";
import { addEvent, keepEvents, removeEvent, setEvent, setLink, setProducer } from "./edits.ts";
import {
  actionBy,
  afterEvent,
  afterPowerCycle,
  type EventFrame,
  type NodeState,
  newNode,
  switchesFor,
} from "./node.ts";
import { eventPlan } from "./plan.ts";
import { allTaught, stepDone } from "./taught.ts";
import { teachingSheets } from "./teaching.ts";

const AT = "2026-05-12T20:14:00.000Z";
const threadsOf = (record: RailwayRecord) => new Derived(record).schematic.threads;
const planOf = (record: RailwayRecord) => eventPlan(record, threadsOf(record));
const made = (record: RailwayRecord, group: EditGroup | null) => edit(record, group!.edits).record;

function numbered(record: RailwayRecord): RailwayRecord {
  return drafted(record, (draft) => {
    for (const [index, { id, typeId }] of record.devices.filter(({ typeId }) => typeId.includes("-node-")).entries())
      draft.put("setting", {
        ...{ id: `${id}-number-${typeId.length}`, deviceId: id, way: null, name: "node number" },
        ...{ wanted: String(16 + index), read: null, readAt: null },
      });
  });
}

describe("what is proposed", () => {
  it("is an event for each button, and what the motor does upon it", () => {
    const { events, links, outputs } = planOf(onBus("push-pair"));
    expect(events.map(({ label, number, standing }) => [label, number, standing])).toEqual([
      ["B1 N", 1, "proposed"],
      ["B1 R", 2, "proposed"],
    ]);
    expect(outputs.map(({ label, drives }) => [label, drives])).toEqual([["ON1-1", "A"]]);
    expect(links.map(({ eventId, action }) => [eventId, action])).toEqual([
      ["in1-1", "off"],
      ["in1-2", "on"],
    ]);
  });

  it("is one event for a toggle that stays put: its other side says nothing new", () => {
    const { events, links } = planOf(onBus("toggle-latching"));
    expect(events.map(({ label, number }) => [label, number])).toEqual([["B1 R", 2]]);
    expect(links.map(({ action }) => action)).toEqual(["acts"]);
  });

  it("lights both colours of a lamp on outputs to 0 V by turns", () => {
    const record = numbered(lampOnNode("lamp-two-colour-12"));
    const { outputs, links, events } = planOf(record);
    expect(outputs.map(({ drives }) => drives)).toEqual(["LP1 at N", "LP1 at R"]);
    // nothing on the bus tells the node how the turnout stands
    expect([events, links]).toEqual([[], []]);
  });

  it("is nothing on a railway without a bus", () => {
    expect(planOf(railway(["A", "", "stall-motor", "stall-decoder-8"])).outputs).toEqual([]);
  });
});

/** Where the motor of A goes when it is asked. */
function goes(record: RailwayRecord): (string | null)[] {
  const { circuitry } = new Derived(record);
  return (["N", "R"] as const).map((position) =>
    circuitry.motorGoesTo("a", { asked: { a: position }, moment: "throwing", acting: "a", off: false }),
  );
}

describe.each(["push-pair", "toggle-latching"])("a motor on the bus thrown by a %s", (control) => {
  const record = onBus(control);
  const [output] = planOf(record).outputs;
  const set = (eventId: string, action: EventAction | null, now = record) =>
    made(now, setLink(now, threadsOf(now), eventId, output!, action));

  it("follows what is proposed", () => {
    expect(goes(record)).toEqual(["N", "R"]);
    expect(goes(made(record, keepEvents(record, threadsOf(record))))).toEqual(["N", "R"]);
  });

  it("goes nowhere when nobody tells its output anything", () => {
    const deaf = planOf(record).events.reduce((now, { id }) => set(id, null, now), record);
    expect(planOf(deaf).links).toEqual([]);
    expect(new Set(goes(deaf)).size).toBe(1);
  });

  it("goes the other way when it acts inverted", () => {
    const turnedRound = planOf(record).links.reduce((now, { eventId, action }) => {
      const other = { acts: "inverted", inverted: "acts", on: "off", off: "on" } as const;
      return set(eventId, other[action!], now);
    }, record);
    expect(goes(turnedRound)).toEqual(["R", "N"]);
    // the sense ledger turns it once more: the matrix says what the output does in the end
    const twice = drafted(turnedRound, (draft) =>
      draft.put("sense", {
        ...{ id: "s", link: "event", deviceId: "on1", way: 1, inverts: true, known: "seen", note: "" },
        at: AT,
      } as never),
    );
    expect(goes(twice)).toEqual(["N", "R"]);
    expect(
      planOf(twice)
        .links.map(({ action }) => action)
        .sort(),
    ).toEqual(
      planOf(record)
        .links.map(({ action }) => action)
        .sort(),
    );
  });

  it("does what it was taught, whatever is wanted", () => {
    const taught = made(record, allTaught(record, threadsOf(record), "on1", AT));
    expect(goes(taught)).toEqual(["N", "R"]);
    const other = planOf(taught).links.reduce((now, { eventId }) => set(eventId, null, now), taught);
    expect(goes(other)).toEqual(["N", "R"]);
    // of a node with another number nothing is heard any more
    const renumbered = drafted(taught, (draft) => {
      const setting = draft.record.settings.find(({ deviceId }) => deviceId === "in1")!;
      draft.put("setting", { ...setting, wanted: "40" });
    });
    expect(planOf(renumbered).strays).toHaveLength(taught.taught.length);
    expect(teachingSheets(renumbered, threadsOf(renumbered))[0]!.steps[0]!.kind).toBe("clear");
  });
});

describe("findings about what outputs do", () => {
  const linked = (record: RailwayRecord, eventId: string, action: EventAction | null, way = 1) =>
    made(record, setLink(record, threadsOf(record), eventId, { deviceId: "on1", way, label: `ON1-${way}` }, action));

  it("say that no event tells a motor where to go, and put it right by what throws its turnout", () => {
    const deaf = linked(onBus("push-pair"), "in1-1", null);
    const [astray] = findingsOf(deaf, "goes-astray");
    expect(astray!.why).toBe("Asked for N, A goes to R: no event tells ON1-1 to go there.");
    const cured = remedied(deaf, astray!, "ON1-1 acts as its controls ask");
    expect(goes(cured)).toEqual(["N", "R"]);
    expect(findingsOf(cured, "goes-astray")).toEqual([]);
  });

  it("say that a motor acts the other way upon its events", () => {
    const turnedRound = linked(onBus("toggle-latching"), "in1-2", "inverted");
    expect(findingsOf(turnedRound, "goes-astray").map(({ why }) => why)).toEqual([
      "Asked for N, A goes to R: ON1-1 acts the other way upon its events.",
    ]);
  });

  it("take both sides of one toggle for one master", () => {
    const record = onBus("toggle-latching");
    const other = made(record, addEvent(record, threadsOf(record), "B1 at N"));
    const both = made(
      other,
      setProducer(other, threadsOf(other), { deviceId: "in1", way: 1, label: "IN1-1" }, other.events[0]!.id),
    );
    const said = linked(both, both.events[0]!.id, "inverted");
    expect(
      planOf(said)
        .links.map(({ action }) => action)
        .sort(),
    ).toEqual(["acts", "inverted"]);
    expect(findingsOf(said, "output-two-masters")).toEqual([]);
    expect(findingsOf(linked(onBus("push-pair", "push-pair"), "in1-4", "on"), "output-two-masters")).toHaveLength(1);
  });

  it("see an event that comes round by a contact of the motor that it moves", () => {
    const record = onBus("push-pair");
    const read = made(record, setPlainInput(record, "in1", 9, { deviceId: "a", way: 2 }));
    const named = made(read, addEvent(read, threadsOf(read), "A lies at reverse"));
    const { id } = named.events[0]!;
    const sent = made(named, setProducer(named, threadsOf(named), { deviceId: "in1", way: 9, label: "IN1-9" }, id));
    expect(findingsOf(sent, "event-loop")).toEqual([]);
    const [loop] = findingsOf(linked(sent, id, "inverted"), "event-loop");
    expect(loop!.why).toBe("IN1-9 sends A lies at reverse, which works IN1-9 again.");
  });
});

describe("edits", () => {
  const record = onBus("push-pair");
  it("keep an event with all that is said of it when one thing is", () => {
    const named = made(record, setEvent(record, threadsOf(record), "in1-2", { label: "Quay to the pier" }));
    expect(named.events).toMatchObject([{ label: "Quay to the pier", nodeId: "in1", number: 2 }]);
    expect(named.producers).toMatchObject([{ deviceId: "in1", way: 2 }]);
    expect(named.consumers).toMatchObject([{ deviceId: "on1", way: 1, action: "on" }]);
    expect(setEvent(named, threadsOf(named), "in1-2", { label: "Quay to the pier" })).toBeNull();
    expect(() => setEvent(named, threadsOf(named), "in1-2", { number: 1 })).toThrow(
      /Event B1 N has the number 1 already/,
    );
    expect(() => setEvent(named, threadsOf(named), "in1-2", { number: 0 })).toThrow(/1 to 65535/);
    const short = made(named, setEvent(named, threadsOf(named), "in1-2", { nodeId: null, number: 12 }));
    expect(short.events[0]).toMatchObject({ nodeId: null, number: 12 });
    // given up, it is proposed again as it was
    const back = made(short, removeEvent(short, short.events[0]!.id));
    expect([back.events, back.producers, back.consumers]).toEqual([[], [], []]);
    expect(planOf(back).events).toEqual(planOf(record).events);
  });

  it("let several inputs produce one event, and name a new one", () => {
    const added = made(record, addEvent(record, threadsOf(record), "All to normal"));
    expect(() => addEvent(added, threadsOf(added), "all to normal")).toThrow(/already/);
    const { id } = added.events[0]!;
    const input = { deviceId: "in1", way: 5, label: "IN1-5" };
    const produced = made(added, setProducer(added, threadsOf(added), input, id));
    expect(
      planOf(produced)
        .events.find((event) => event.id === id)!
        .inputs.map(({ label }) => label),
    ).toEqual(["IN1-5"]);
    expect(setProducer(produced, threadsOf(produced), input, id)).toBeNull();
    expect(made(produced, setProducer(produced, threadsOf(produced), input, null)).producers).toEqual([]);
  });
});

const frames: fc.Arbitrary<EventFrame> = fc.record({
  node: fc.constantFrom(0, 16, 17),
  number: fc.integer({ min: 1, max: 3 }),
  form: fc.constantFrom("on" as const, "off" as const),
});

describe("a node", () => {
  it("is taught each action by the switches for it", () => {
    for (const action of EVENT_ACTIONS) expect(actionBy(switchesFor(action))).toBe(action);
  });

  it("obeys the last event: it is no OR", () => {
    const learn = (state: NodeState, number: number) => {
      const on = { ...state, switches: { ...state.switches, learn: true } };
      const taught = afterEvent(on, { node: 16, number, form: "on" });
      return { ...taught, switches: { ...taught.switches, learn: false } };
    };
    let state = learn(learn(newNode(8), 1), 2);
    for (const [number, form] of [
      [1, "on"],
      [2, "on"],
      [1, "off"],
    ] as const)
      state = afterEvent(state, { node: 16, number, form });
    expect(state.outputs[0]).toBe(false);
  });

  it("forgets all when power comes back with the unlearning switch on, and nothing else", () => {
    fc.assert(
      fc.property(fc.array(frames, { maxLength: 12 }), fc.boolean(), (all, stays) => {
        const learning = { ...newNode(4), switches: { ...newNode(4).switches, learn: true } };
        const taught = all.reduce(afterEvent, learning);
        expect(afterPowerCycle(taught, stays).entries).toEqual(taught.entries);
        const unlearning = { ...taught, switches: { ...taught.switches, unlearn: true } };
        expect(afterPowerCycle(unlearning, stays).entries).toEqual([]);
      }),
    );
  });
});

it("ends as it is wanted when a sheet is worked through, whatever the node knew before", () => {
  const record = onBus("push-pair");
  const consumers = fc.array(
    fc.record({
      event: fc.nat(1),
      way: fc.integer({ min: 1, max: 8 }),
      action: fc.constantFrom(...EVENT_ACTIONS, null),
    }),
    { maxLength: 6 },
  );
  fc.assert(
    fc.property(consumers, consumers, (before, after) => {
      const said = (from: RailwayRecord, all: typeof before) =>
        all.reduce((now, { event, way, action }) => {
          const threads = threadsOf(now);
          const { id } = eventPlan(now, threads).events[event]!;
          const group = setLink(now, threads, id, { deviceId: "on1", way, label: `ON1-${way}` }, action);
          return group ? edit(now, group.edits).record : now;
        }, from);
      const start = said(record, before);
      const group = allTaught(start, threadsOf(start), "on1", AT);
      let now = said(group ? edit(start, group.edits).record : start, after);
      // the node itself, worked as the sheet says
      const { links, events } = eventPlan(start, threadsOf(start));
      let node: NodeState = newNode(8);
      for (const link of links) {
        if (link.action === null) continue;
        const switches = { ...node.switches, way: link.way, learn: true, ...switchesFor(link.action) };
        const { number } = events.find(({ id }) => id === link.eventId)!;
        node = afterEvent({ ...node, switches }, { node: nodeNumber, number, form: "on" });
      }
      for (let steps = 0; steps < 60; steps++) {
        const threads = threadsOf(now);
        const sheet = teachingSheets(now, threads)[0];
        const open = sheet?.steps.find(
          (step) => step.doneAt === null && (step.kind !== "end" || sheet.done === sheet.of),
        );
        const step = sheet?.steps
          .filter(({ kind }) => kind === "unlearn" || kind === "teach")
          .find(({ doneAt }) => doneAt === null);
        if (!open || !sheet || !step) break;
        const number = eventPlan(now, threads).events.find(({ id }) => id === step.eventId)!.number;
        // the switches as the sheet has them at this step
        const on = new Map(step.switches.map(({ name, on: isOn }) => [name, isOn]));
        const way = 1 + ["S1", "S2", "S3"].reduce((sum, name, bit) => sum + (on.get(name) ? 2 ** bit : 0), 0);
        const switches = {
          ...{ way, learn: on.get("L")!, unlearn: on.get("U")!, inverted: on.get("P")!, onOnly: on.get("O")! },
        };
        node = afterEvent({ ...node, switches }, { node: nodeNumber, number, form: "on" });
        const done = stepDone(now, threads, "on1", step, AT);
        now = done ? edit(now, done.edits).record : now;
      }
      const plan = eventPlan(now, threadsOf(now));
      for (const { action, taught } of plan.links) expect(taught).toBe(action);
      const wanted = plan.links.flatMap(({ eventId, way, action }) =>
        action === null ? [] : [`${plan.events.find(({ id }) => id === eventId)!.number} ${way} ${action}`],
      );
      expect(node.entries.map(({ number, way, action }) => `${number} ${way} ${action}`).sort()).toEqual(wanted.sort());
    }),
    { numRuns: 30 },
  );
});

/** Number of the input node, which events carry: nodes are numbered in the order of devices. */
const nodeNumber = eventPlan(onBus("push-pair"), threadsOf(onBus("push-pair"))).nodeNumber.get("in1")!;

it("finds nothing wrong with a railway whose bus is as it is proposed", () => {
  for (const control of ["push-pair", "toggle-latching"]) expect(findingsOf(onBus(control), "goes-astray")).toEqual([]);
  expect(planOf(readBy("input-node-16")).events.length).toBeGreaterThan(0);
});
