// The whole railway over the line: tried, programmed, taught, read and written, against the models that the stand-ins are made of.
import {
  accessoryPacket,
  compareAddresses,
  compareNodes,
  Derived,
  type EditGroup,
  EventBus,
  edit,
  hardwareOf,
  hexOf,
  noteAnswers,
  noteNodes,
  programmingOrder,
  type RailwayRecord,
  Station,
  setAnswer,
  threadsOf,
} from "@alderman/core";
import { drafted, railway } from "@alderman/core/testing/build";
import { onBus } from "@alderman/core/testing/recipes";
import { afterEach, describe, expect, it, vi } from "vitest";
import { LiveError } from "./liveServer.ts";
import { askNodes, locksOf, programAll, readAll, stationSettings, teachAll, tryAll, writeAll } from "./work.ts";

const AT = "2026-05-12T20:14:00.000Z";
const quiet = () => {};

/** A command as it goes to the server. */
interface Command {
  do: string;
  label?: string;
  way?: number;
  name?: string;
  value?: string;
  text?: string;
  made?: boolean;
  address?: number;
  addresses?: number[];
  labels?: string[];
  lock?: string | null;
}

/** What a server with stand-ins of a railway answers to commands. */
function serve(record: RailwayRecord): { silent: boolean } {
  const hardware = hardwareOf(record, threadsOf(record));
  const station = new Station(hardware);
  const bus = new EventBus(hardware);
  const state = { silent: false };
  const throwIt = (address: number, to: "straight" | "diverging") => {
    const answers = station.answer(`PACKET ${accessoryPacket(address, 0, to, true).bytes.map(hexOf).join(" ")}`);
    const of = (word: string) =>
      answers
        .map((each) => each.split(" "))
        .flatMap(([first, label, way]) => (first === word ? [`${label}-${way}`] : []));
    return { moved: of("SEEN"), took: of("TOOK") };
  };
  const answerTo = (command: Command): unknown => {
    const { label, way, name, value, text = "", address = 0, addresses = [], labels = [] } = command;
    switch (command.do) {
      case "try":
        return {
          thrown: addresses.map((each) => ({
            address: each,
            moved: throwIt(each, "diverging").moved,
          })),
        };
      case "program": {
        station.answer(`PRESS ${label} ${way}`);
        throwIt(address, "diverging");
        return { answers: throwIt(address, "straight").moved.includes(`${label}-${way}`) };
      }
      case "read":
        return { value: (station.answer(`READ ${label} ${way} ${name}`)[0] ?? "").replace("VALUE ", "") };
      case "write":
        if (command.lock) station.answer(`WRITE ${label} 0 ${command.lock} = open`);
        station.answer(`WRITE ${label} ${way} ${name} = ${value}`);
        if (command.lock) station.answer(`WRITE ${label} 0 ${command.lock} = set`);
        return { value: (station.answer(`READ ${label} ${way} ${name}`)[0] ?? "").replace("VALUE ", "") };
      case "work":
        return { answers: bus.answer(`${command.made ? "PRESS" : "RELEASE"} ${label} ${way};`) };
      case "bus":
        return { answers: bus.answer(text) };
      default:
        return {
          silent: [],
          nodes: labels.map((each) => {
            const words = bus.answer(`DUMP ${each};`).map((line) => line.replace(";", "").split(" "));
            const entries = words.flatMap(([word, , output, node, number, action]) =>
              word === "KNOWS" ? [{ way: Number(output), node: Number(node), number: Number(number), action }] : [],
            );
            return { label: each, number: Number(words[0]?.[2]), entries };
          }),
        };
    }
  };
  vi.stubGlobal("fetch", async (_path: string, init: { body: string }) => {
    if (state.silent)
      return new Response(JSON.stringify({ error: { message: "It did not answer." } }), { status: 502 });
    return new Response(JSON.stringify(answerTo(JSON.parse(init.body) as Command)));
  });
  return state;
}

/** A decoder of eight outputs that are to have 41 and so on, and answer as the factory set them. */
function onDecoder(): RailwayRecord {
  return drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) => {
    for (let way = 1; way <= 8; way++) draft.assign("address", { deviceId: "d1", way, address: 40 + way });
  });
}

let record: RailwayRecord;
const derived = () => new Derived(record);
const apply = (group: EditGroup | null) => {
  record = group ? edit(record, group.edits).record : record;
};

afterEach(() => vi.unstubAllGlobals());

describe("addresses", () => {
  it("are programmed one after the other until each answers, and what does not is left", async () => {
    record = onDecoder();
    serve(record);
    const steps = programmingOrder(record, derived().addresses);
    expect(steps.length).toBeGreaterThan(0);
    const noted: string[] = [];
    const done = await programAll(
      "r",
      record,
      steps,
      ({ label, deviceId, ways: [way = 1], address }) => {
        noted.push(label);
        apply(setAnswer(record, deviceId, way, address, { how: "programmed", seen: "", at: AT }));
      },
      quiet,
    );
    expect([done, noted.length]).toEqual([steps.length, steps.length]);
    const { addresses } = derived();
    const found = compareAddresses(addresses, await tryAll("r", addresses, 0, quiet));
    expect(found.words).toBe(`${addresses.length} of ${addresses.length} outputs answer to their address.`);
    apply(noteAnswers(record, addresses, found, AT));
    expect(derived().addresses.every(({ address, now }) => address === now)).toBe(true);
  });

  it("that no decoder can have are not thrown", async () => {
    record = onDecoder();
    serve(record);
    const { addresses } = derived();
    const [first, ...others] = addresses;
    const thrown = await tryAll("r", [{ ...first!, address: 60_000, now: 0 }, ...others], 0, quiet);
    expect(thrown.map(({ address }) => address)).not.toContain(60_000);
    expect(thrown.map(({ address }) => address)).not.toContain(0);
  });

  it("say why they could not be tried", async () => {
    record = onDecoder();
    serve(record).silent = true;
    await expect(tryAll("r", derived().addresses, 0, quiet)).rejects.toThrow(new LiveError("It did not answer."));
  });
});

describe("nodes", () => {
  it("hold what is wanted once they were taught, whatever they held before", async () => {
    record = onBus("push-pair", "toggle-latching");
    serve(record);
    const shares: number[] = [];
    await teachAll("r", record, (share) => shares.push(share));
    const { nodes } = await askNodes("r", record);
    expect(compareNodes(record, threadsOf(record), nodes)).toBe("3 of 3 links are taught as wanted.");
    apply(noteNodes(record, nodes, AT));
    expect(record.taught).toHaveLength(3);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    // taught again there is nothing to do, and nothing changes
    await teachAll("r", record, quiet);
    expect((await askNodes("r", record)).nodes).toEqual(nodes);
  });

  it("unlearn what is not wanted any more", async () => {
    const wrong = onBus("push-pair");
    const node = hardwareOf(wrong, threadsOf(wrong)).nodes.find(({ label }) => label === "IN1")?.number ?? 0;
    const at = { deviceId: "on1", way: 1, node, at: AT };
    record = {
      ...wrong,
      taught: [
        { id: "a", ...at, number: 1, action: "on" },
        { id: "b", ...at, number: 2, action: "on" },
        { id: "c", ...at, way: 5, number: 2, action: "acts" },
      ],
    };
    serve(record);
    await teachAll("r", record, quiet);
    const { nodes } = await askNodes("r", record);
    const held = nodes.find(({ label }) => label === "ON1")!.entries.map((e) => `${e.number} ${e.way} ${e.action}`);
    expect(held.sort()).toEqual(["1 1 off", "2 1 on"]);
  });
});

it("settings are written and read back, each by its own name", async () => {
  record = onDecoder();
  serve(record);
  const lines = stationSettings(record);
  const before = await readAll("r", lines, quiet);
  for (const line of lines) expect(before.get(line.id)).toBe(line.setting.factory);
  const [some] = lines.filter(({ setting }) => setting.name === "sense");
  const wanted = { ...some!, wanted: "reversed" };
  expect(await writeAll("r", [wanted], locksOf(record), quiet)).toEqual(new Map([[wanted.id, "reversed"]]));
  expect((await readAll("r", [wanted], quiet)).get(wanted.id)).toBe("reversed");
  expect(locksOf(record)).toEqual(new Map());
});

it("a device with a lock is opened for each write, by the lock's own name", async () => {
  record = railway(["A", "", "slow-motor-decoder"]);
  serve(record);
  const lines = stationSettings(record);
  expect(lines.map(({ setting }) => setting.name)).not.toContain("lock");
  const wanted = lines.flatMap((line) => (line.setting.name === "force" ? [{ ...line, wanted: "7" }] : []));
  expect(locksOf(record)).toEqual(new Map([["a", "lock"]]));
  expect([...(await writeAll("r", wanted, new Map(), quiet)).values()]).toEqual(["4"]);
  expect([...(await writeAll("r", wanted, locksOf(record), quiet)).values()]).toEqual(["7"]);
});
