// Stand-ins by themselves: what they answer, what they do with bad input, and that they are what the model says.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { onBus, readBy } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { setEvent } from "../events/edits.ts";
import { afterEvent, afterPowerCycle, type NodeState, newNode } from "../events/node.ts";
import { eventPlan } from "../events/plan.ts";
import { allTaught } from "../events/taught.ts";
import {
  accessoryPacket,
  aspectPacket,
  hexOf,
  onMainPacket,
  type Packet,
  serviceModePacket,
} from "../numbers/packets.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { settingLines } from "../settings/settings.ts";
import { compareAddresses, compareNodes, type NodeFound, noteAnswers, noteNodes, noteSettings } from "./compare.ts";
import { EventBus } from "./eventBus.ts";
import { FeedbackBus } from "./feedbackBus.ts";
import { messagesIn } from "./frames.ts";
import { hardwareOf } from "./hardware.ts";
import { Station } from "./station.ts";
import { wordsOf } from "./words.ts";

const AT = "2026-05-12T20:14:00.000Z";
const derivedOf = (record: RailwayRecord) => new Derived(record);
const hardware = (record: RailwayRecord) => hardwareOf(record, derivedOf(record).schematic.threads);
const packet = (address: number, to: "straight" | "diverging" = "diverging", shift: 0 | 4 = 0) =>
  `PACKET ${accessoryPacket(address, shift, to, true).bytes.map(hexOf).join(" ")}`;

describe("the command station", () => {
  const record = railway(["A", "", "stall-motor", "stall-decoder-8"]);

  it("moves what answers to an address, and nothing else", () => {
    const station = new Station(hardware(record));
    expect(station.answer(packet(1))).toEqual(["SEEN D1 1 R", "OK"]);
    expect(station.answer(packet(1, "straight"))).toEqual(["SEEN D1 1 N", "OK"]);
    expect(station.answer(packet(900))).toEqual(["OK"]);
  });

  it("is programmed by the next address after a press, output by output or in blocks", () => {
    const station = new Station(hardware(record));
    expect(station.answer("PRESS D1 3")).toEqual(["OK"]);
    expect(station.answer(packet(700))).toEqual(["TOOK D1 3 700", "OK"]);
    expect(station.answer(packet(700))).toEqual(["SEEN D1 3 R", "OK"]);
    const blocks = new Station(hardware(railway(["A", "", "twin-coil-surface", "coil-decoder-4"])));
    blocks.answer("PRESS D1 1");
    blocks.answer(packet(41));
    expect(blocks.answer(packet(44))).toEqual(["SEEN D1 4 R", "OK"]);
  });

  it("counts as the railway's station does", () => {
    const shifted = drafted(record, () => {});
    const own = { ...hardware(shifted), shift: 4 as const };
    expect(new Station(own).answer(packet(1, "diverging", 4))).toEqual(["SEEN D1 1 R", "OK"]);
  });

  it("tells a signal its aspect, and writes variables on the main and on the programming track", () => {
    const station = new Station(hardware(record));
    const sent = ({ bytes }: Packet) => station.answer(`PACKET ${bytes.map(hexOf).join(" ")}`);
    expect(sent(aspectPacket(40, 0, 16))).toEqual(["SHOWS 40 16", "OK"]);
    expect(sent(onMainPacket(2, 0, 33, 7))).toEqual(["WROTE D1 33 7", "OK"]);
    expect(sent(onMainPacket(900, 0, 33, 7))).toEqual(["OK"]);
    // nothing is on the programming track yet
    expect(sent(serviceModePacket(33, 7, "verify"))).toEqual(["OK"]);
    expect(station.answer("TRACK D9")[0]).toMatch(/^ERR/);
    expect(station.answer("TRACK D1")).toEqual(["OK"]);
    expect(sent(serviceModePacket(33, 7, "verify"))).toEqual(["ACK D1 33 7", "OK"]);
    expect(sent(serviceModePacket(33, 8, "verify"))).toEqual(["OK"]);
    // variables 1 and 9 hold the decoder's address: 1 is that of 1 to 4, 65 that of 257 to 260
    expect(sent(serviceModePacket(1, 1, "verify"))).toEqual(["ACK D1 1 1", "OK"]);
    expect(sent(serviceModePacket(9, 1))).toEqual(["ACK D1 9 1", "OK"]);
    expect(station.answer(packet(257))).toEqual(["SEEN D1 1 R", "OK"]);
    expect(station.answer(packet(1))).toEqual(["OK"]);
  });

  it("writes nothing into a device whose lock is shut", () => {
    const station = new Station(hardware(railway(["A", "", "slow-motor-decoder"])));
    expect(station.answer("WRITE A 0 force = 7")[0]).toMatch(/^ERR A is locked/);
    expect(station.answer("WRITE A 0 lock = open")).toEqual(["OK"]);
    expect(station.answer("WRITE A 0 force = 7")).toEqual(["OK"]);
    expect(station.answer("READ A 0 force")).toEqual(["VALUE 7"]);
  });

  it("reads and writes settings by their names", () => {
    const servo = new Station(hardware(railway(["A", "", "servo", "servo-board-4"])));
    const [before] = servo.answer("READ SB1 1 speed");
    expect(before).toMatch(/^VALUE \d/);
    expect(servo.answer("WRITE SB1 1 speed = 3")).toEqual(["OK"]);
    expect(servo.answer("READ SB1 1 speed")).toEqual(["VALUE 3"]);
    expect(servo.answer("READ SB1 1 colour")[0]).toMatch(/^ERR/);
  });

  it.each([
    "",
    "DANCE",
    "PACKET",
    "PACKET 1 2 3",
    "PACKET zz",
    "PACKET 81 F9 79",
    "PRESS D9 1",
    "PRESS D1 99",
    "WRITE D1",
  ])("says what is wrong with %j", (line) => {
    expect(new Station(hardware(record)).answer(line)[0]).toMatch(/^ERR ./);
  });
});

describe("the event bus", () => {
  it("is for any teaching, unlearning, inverting and power cycle as the model of a node", () => {
    const record = onBus("push-pair");
    const deeds = fc.array(
      fc.oneof(
        fc.record({ kind: fc.constant("select" as const), way: fc.integer({ min: 1, max: 8 }) }),
        fc.record({
          kind: fc.constant("switch" as const),
          name: fc.constantFrom("L", "U", "P", "O"),
          on: fc.boolean(),
        }),
        fc.record({ kind: fc.constant("work" as const), way: fc.integer({ min: 1, max: 4 }), on: fc.boolean() }),
        fc.record({ kind: fc.constant("power" as const) }),
      ),
      { maxLength: 30 },
    );
    const { number } = hardware(record).nodes.find(({ label }) => label === "IN1")!;
    const field = { L: "learn", U: "unlearn", P: "inverted", O: "onOnly" } as const;
    fc.assert(
      fc.property(deeds, (all) => {
        const bus = new EventBus(hardware(record));
        let node: NodeState = newNode(8);
        for (const deed of all) {
          const { switches } = node;
          if (deed.kind === "select") {
            bus.answer(`SELECT ON1 ${deed.way};`);
            node = { ...node, switches: { ...switches, way: deed.way } };
          } else if (deed.kind === "switch") {
            bus.answer(`SWITCH ON1 ${deed.name} ${deed.on ? "on" : "off"};`);
            node = { ...node, switches: { ...switches, [field[deed.name as "L"]]: deed.on } };
          } else if (deed.kind === "work") {
            bus.answer(`${deed.on ? "PRESS" : "RELEASE"} IN1 ${deed.way};`);
            node = afterEvent(node, { node: number, number: deed.way, form: deed.on ? "on" : "off" });
          } else {
            bus.answer("POWER ON1;");
            node = afterPowerCycle(node, true);
          }
        }
        const known = bus.answer("DUMP ON1;").filter((line) => line.startsWith("KNOWS"));
        const of = node.entries.map((e) => `KNOWS ON1 ${e.way} ${e.node} ${e.number} ${e.action};`);
        expect(known.sort()).toEqual(of.sort());
      }),
    );
  });

  it("carries what a button sends to what was taught it", () => {
    const record = onBus("push-pair");
    const taught = edit(record, allTaught(record, derivedOf(record).schematic.threads, "on1", AT)!.edits).record;
    const bus = new EventBus(hardware(taught));
    const answers = bus.answer("PRESS IN1 2;");
    expect(answers[0]).toMatch(/^:X195B4[0-9A-F]{3}N05000001[0-9A-F]{4}0002;$/);
    expect(answers.slice(1)).toEqual(["MOVED ON1 1 on;", "OK;"]);
    // a node without power hears nothing
    expect(bus.answer("PRESS IN1 1;", (label) => label === "ON1")).toHaveLength(2);
  });

  it("sends the numbers that the record says: a short one, and a long one that is not its input's", () => {
    const record = onBus("push-pair");
    const said = (fields: object) => {
      const { threads } = derivedOf(record).schematic;
      const now = edit(record, setEvent(record, threads, "in1-2", fields)!.edits).record;
      return new EventBus(hardware(now)).answer("PRESS IN1 2;")[0];
    };
    expect(said({ nodeId: null, number: 300 })).toMatch(/N050000010000012C;$/);
    expect(said({ number: 9 })).toMatch(/N05000001[0-9A-F]{4}0009;$/);
  });

  it.each([
    "",
    ";",
    "HOP ON1;",
    "PRESS IN1 99;",
    "PRESS ON1 1;",
    "SWITCH IN1 L on;",
    "SELECT ON1 0;",
    ":X12N;",
    ":junk;",
  ])("says what is wrong with %j", (message) => {
    expect(new EventBus(hardware(onBus("push-pair"))).answer(message)[0]).toMatch(/^ERR .*;$/);
  });
});

it("sends the number of a feedback input that is worked", () => {
  const bus = new FeedbackBus(hardware(readBy("encoder-16")));
  expect(bus.answer("PRESS IN1 3")).toEqual(["INPUT 3 1", "OK"]);
  expect(bus.answer("RELEASE IN1 3")).toEqual(["INPUT 3 0", "OK"]);
  for (const line of ["PRESS IN1 17", "PRESS XX 1", "HOLD IN1 1"]) expect(bus.answer(line)[0]).toMatch(/^ERR/);
});

it("takes whole messages out of a stream, however it was cut", () => {
  fc.assert(
    fc.property(fc.array(fc.stringMatching(/^[A-Z0-9 ]{1,12}$/), { maxLength: 8 }), fc.nat(9), (all, cut) => {
      const text = all.map((each) => `${each};`).join("\n");
      const size = 1 + cut;
      const got: string[] = [];
      let rest = "";
      for (let at = 0; at < text.length; at += size) {
        const found = messagesIn(rest + text.slice(at, at + size), ";");
        got.push(...found.messages);
        rest = found.rest;
      }
      expect(got).toEqual(
        all
          .map((each) => each.trim())
          .filter(Boolean)
          .map((each) => `${each};`),
      );
    }),
  );
});

describe("what was found", () => {
  it("is told of the whole railway in a sentence, and written down", () => {
    const record = railway(["A", "", "stall-motor", "stall-decoder-8"]);
    const { addresses } = derivedOf(record);
    const thrown = addresses.map(({ address, label }) => ({ address, moved: label === "D1-2" ? [] : [label] }));
    const found = compareAddresses(addresses, [...thrown, { address: 90, moved: ["D1-2"] }]);
    expect(found.words).toBe("7 of 8 outputs answer to their address; D1-2 still has 90.");
    const now = edit(record, noteAnswers(record, addresses, found, AT)!.edits).record;
    expect(now.answers).toHaveLength(8);
    expect(derivedOf(now).addresses.find(({ label }) => label === "D1-2")!.now).toBe(90);
    expect(compareAddresses(addresses, []).words).toMatch(/^0 of 8 outputs answer .* answers to none of them/);
  });

  it("of nodes and settings becomes facts", () => {
    const record = onBus("push-pair");
    const { threads } = derivedOf(record).schematic;
    const { nodeNumber, links } = eventPlan(record, threads);
    const node = nodeNumber.get("in1")!;
    const found: NodeFound[] = [
      { label: "IN1", number: node, entries: [] },
      { label: "ON1", number: 77, entries: [{ way: 1, node, number: 1, action: "off" }] },
    ];
    expect(compareNodes(record, threads, found)).toBe(
      `1 of 2 links is taught as wanted; ON1 is node 77, not ${nodeNumber.get("on1")}.`,
    );
    const now = edit(record, noteNodes(record, found, AT)!.edits).record;
    expect(now.taught).toMatchObject([{ deviceId: "on1", way: 1, action: "off" }]);
    // what is not there any more was unlearned
    const later = edit(now, noteNodes(now, [{ ...found[1]!, entries: [] }], AT)!.edits).record;
    expect(later.taught).toMatchObject([{ action: null }]);
    expect(noteNodes(later, [{ ...found[1]!, entries: [] }], AT)).toBeNull();
    expect(links).toHaveLength(2);
    const lines = settingLines(record);
    const learn = lines.find(({ setting }) => setting.isLearn)!;
    const read = edit(record, noteSettings(record, lines, new Map([[learn.id, "on"]]), AT)!.edits).record;
    expect(settingLines(read).find(({ id }) => id === learn.id)!.read).toBe("on");
  });
});

it("says in words what goes over the lines", () => {
  const record = onBus("push-pair");
  const plan = eventPlan(record, derivedOf(record).schematic.threads);
  const named = { plan, shift: 0 as const, drives: new Map([["ON1-1", "A"]]) };
  const bus = new EventBus(hardware(record));
  const [frame = ""] = bus.answer("PRESS IN1 2;");
  expect(wordsOf(frame, named)).toBe("B1 R on");
  expect(wordsOf("MOVED ON1 1 on;", named)).toBe("ON1-1 (A) goes on");
  expect(wordsOf(packet(117), named)).toBe("address 117, diverging");
  expect(wordsOf(":X195B4FFFN0500000100770003;", named)).toBe("event 3 of node 119, unknown, on");
  expect(wordsOf("TOOK D1 3 700", named)).toBe("D1-3 takes address 700");
  expect(wordsOf("NODE ON1 21;", named)).toBe("ON1 is node 21");
  expect(wordsOf("NODE ON1 0;", named)).toBe("ON1 has no number");
  expect(wordsOf("KNOWS ON1 1 300 4 acts;", named)).toBe("ON1-1 (A) upon event 4 of node 300, unknown: acts");
  expect(wordsOf("HELLO", named)).toBe("");
});
