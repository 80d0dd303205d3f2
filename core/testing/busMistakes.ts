// One railway for each rule about events on a control bus, wrong in the way that the rule is about.
import { edit } from "../src/catalogue/edit.ts";
import { Derived } from "../src/derive.ts";
import { addEvent, setEvent, setLink, setProducer } from "../src/events/edits.ts";
import { allTaught, stepDone } from "../src/events/taught.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import type { EventAction } from "../src/record/numbers.ts";
import { drafted, typed } from "./build.ts";
import { onBus } from "./recipes.ts";

const threadsOf = (record: RailwayRecord) => new Derived(record).schematic.threads;

/** What an output of a node is to do upon an event. */
function linked(
  record: RailwayRecord,
  eventId: string,
  way: number,
  action: EventAction | null,
  deviceId = "on1",
): RailwayRecord {
  const output = { deviceId, way, label: `${deviceId.toUpperCase()}-${way}` };
  return edit(record, setLink(record, threadsOf(record), eventId, output, action)?.edits ?? []).record;
}

export const BUS_MISTAKES: Record<string, () => RailwayRecord> = {
  "event-unheard": () => linked(onBus("push-pair"), "in1-2", 1, null),
  "event-unproduced": () => {
    const record = onBus("push-pair");
    const added = edit(record, addEvent(record, threadsOf(record), "All to normal").edits).record;
    return linked(added, "all-to-normal", 1, "off");
  },
  "output-two-masters": () => linked(onBus("push-pair", "push-pair"), "in1-4", 1, "on"),
  "lamp-event-opposite": () => {
    const lamp = drafted(typed(onBus("push-pair"), "a", "lamp", "lamp-two-colour-12"), (draft) => {
      const node = draft.addDevice("output-node-8", "ON", "layout");
      draft.assign("supply", { deviceId: "ps1", toDeviceId: node.id });
      draft.assign("commands", { deviceId: "cb1", toDeviceId: node.id });
      const [old] = draft.record.assignments.filter(({ role }) => role === "lamp");
      if (old?.role === "lamp") draft.put("assignment", { ...old, fromId: node.id, way: 1 });
    });
    return linked(linked(lamp, "in1-1", 1, "on", "on2"), "in1-2", 1, "off", "on2");
  },
  "short-event-shared": () => {
    const record = onBus("push-pair", "push-pair");
    const short = setEvent(record, threadsOf(record), "in1-2", { nodeId: null, number: 12 });
    const named = edit(record, short?.edits ?? []).record;
    const input = { deviceId: "in1", way: 4, label: "IN1-4" };
    return edit(named, setProducer(named, threadsOf(named), input, "in1-2")?.edits ?? []).record;
  },
  "taught-otherwise": () => {
    const record = onBus("push-pair");
    const taught = edit(record, allTaught(record, threadsOf(record), "on1", "2026-05-12T20:14:00.000Z")?.edits ?? []);
    return linked(taught.record, "in1-2", 1, "off");
  },
  "learn-switch-on": () => {
    const record = onBus("push-pair");
    const step = { kind: "choose", eventId: null, way: 1 } as const;
    return edit(record, stepDone(record, threadsOf(record), "on1", step, "2026-05-12T20:14:00.000Z")?.edits ?? [])
      .record;
  },
  "event-loop": () =>
    linked(
      drafted(onBus("push-pair", "push-pair"), (draft) => {
        // the pair of output 3 is read at inputs 5 and 6, as a control of B
        const control = { deviceId: "on1", turnoutId: "b", way: 3, to: null, inverse: false, follows: false };
        draft.assign("control", control);
        draft.assign("input", { deviceId: "in1", way: 5, controlId: "on1", controlWay: 3 });
      }),
      "in1-6",
      3,
      "acts",
    ),
  "start-restores-nothing": () => onBus("toggle-latching"),
};
