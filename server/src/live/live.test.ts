// The stand-ins as processes of their own, spoken to over TCP through the server's routes: programmed, read, written and broken.
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createServer, type Server } from "node:http";
import { type AddressInfo, createServer as createTcpServer, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { aspectPacket, openRailwayFile, serviceModePacket } from "@alderman/core";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { createApp } from "../app.ts";
import { type Live, liveRoutes } from "../routes/live.ts";
import { openDatabase } from "../store/database.ts";
import { Store } from "../store/store.ts";
import { TcpGateway } from "./tcpGateway.ts";

const HOUSE = join(import.meta.dirname, "../../..");
const DEMO = join(HOUSE, "samples/skerrin-ferry.json");
let folder: string;
let store: Store;
let server: Server;
let live: Live;
let base: string;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "alderman-live-"));
  store = new Store(openDatabase(folder));
  const id = store.create(openRailwayFile(readFileSync(DEMO, "utf8")));
  live = liveRoutes(store);
  server = createServer(createApp({ store, live, samplesFolder: join(HOUSE, "samples") }));
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/railways/${id}/live`;
});
afterAll(() => {
  live.stopAll();
  server.closeAllConnections();
  server.close();
  rmSync(folder, { recursive: true, force: true });
});

async function post(path: string, body: object = {}): Promise<{ status: number; body: Record<string, unknown> }> {
  const response = await fetch(`${base}/${path}`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  const text = await response.text();
  return { status: response.status, body: text === "" ? {} : JSON.parse(text) };
}
const command = (body: object) => post("commands", body);
const fault = (on: string, name: string, is: boolean) => post("faults", { on, fault: name, is });
const problem = ({ body }: { body: Record<string, unknown> }) => (body.error as { message: string }).message;

describe("stand-ins of a railway", { timeout: 60_000 }, () => {
  it("say that they are to be started before anything is asked of them", async () => {
    const refused = await command({ do: "throw", address: 21, to: "R" });
    expect([refused.status, problem(refused)]).toEqual([502, "The stand-ins are not running. Start them first."]);
  });

  it("start once for two windows, and are processes of their own", async () => {
    const [first, second] = await Promise.all([post("start"), post("start")]);
    expect(first.body).toMatchObject({
      running: true,
      gateways: [{ name: "station" }, { name: "bus" }, { name: "feedback" }],
    });
    expect(second.body).toEqual(first.body);
  });

  it("move what answers, are programmed, and answer then", async () => {
    // the demo's third output still has 3
    expect((await command({ do: "throw", address: 3, to: "R" })).body.moved).toContain("D1-3");
    const tried = await command({ do: "try", addresses: [21, 23] });
    expect(tried.body.thrown).toEqual([
      { address: 21, moved: ["D1-1"] },
      { address: 23, moved: [] },
    ]);
    expect((await command({ do: "program", label: "D1", way: 3, address: 23 })).body).toEqual({ answers: true });
    expect((await command({ do: "throw", address: 23, to: "R" })).body.moved).toEqual(["D1-3"]);
    const refused = await command({ do: "throw", address: 3000, to: "R" });
    expect(problem(refused)).toMatch(/No decoder can have the address 3000/);
  });

  it("write settings that are read back", async () => {
    const of = { label: "SB1", way: 2, name: "speed" };
    expect((await command({ do: "read", ...of })).body.value).toBe("5");
    expect((await command({ do: "write", ...of, value: "3" })).body.value).toBe("3");
  });

  it("put any packet on the track, and say what is seen of it", async () => {
    const { bytes } = aspectPacket(40, 0, 5);
    expect((await command({ do: "packet", bytes, onTrack: null })).body).toEqual({ seen: ["SHOWS 40 5"] });
    const verify = serviceModePacket(200, 0, "verify").bytes;
    expect((await command({ do: "packet", bytes: verify, onTrack: "D1" })).body).toEqual({ seen: ["ACK D1 200 0"] });
    expect(problem(await command({ do: "packet", bytes: [1, 2, 3], onTrack: null }))).toMatch(
      /no packet for accessories/,
    );
    expect(problem(await command({ do: "packet", bytes: verify, onTrack: "D77" }))).toMatch(/no decoder D77/);
  });

  it("carry what is worked over the bus, and tell what nodes hold", async () => {
    const worked = await command({ do: "work", on: "bus", label: "IN1", way: 2, made: true });
    expect((worked.body.answers as string[]).at(-1)).toBe("OK;");
    const dumped = await command({ do: "dump", labels: ["ON1", "NONE"] });
    expect(dumped.body).toMatchObject({ nodes: [{ label: "ON1", number: 21 }], silent: ["NONE"] });
    // taught by hand: select, learn, make it happen
    for (const text of ["SELECT ON1 5;", "SWITCH ON1 L on;"]) await command({ do: "bus", text });
    await command({ do: "work", on: "bus", label: "IN1", way: 3, made: true });
    await command({ do: "bus", text: "SWITCH ON1 L off;" });
    const after = (await command({ do: "dump", labels: ["ON1"] })).body.nodes as { entries: object[] }[];
    expect(after[0]?.entries).toContainEqual({ way: 5, node: 0, number: 1, action: "acts" });
  });

  it("tell what goes over the lines as it goes", async () => {
    const stop = new AbortController();
    const response = await fetch(`${base}/events`, { signal: stop.signal });
    const reader = response.body!.getReader();
    const { value } = await reader.read();
    stop.abort();
    expect(new TextDecoder().decode(value)).toMatch(
      /^event: messages\ndata: \{"messages":\[\{"at":\d+,"from":"station"/,
    );
  });

  describe("with something amiss", () => {
    afterEach(async () => {
      for (const name of ["no-answer", "wrong-read", "closes", "babbles", "power-lost"])
        await fault("station", name, false);
      for (const name of ["shorted", "loses-frames", "node-missing", "babbles"]) await fault("bus", name, false);
    });
    const of = { label: "SB1", way: 1, name: "speed" };

    it("say what to look at when nothing answers, and go on when it does again", async () => {
      await fault("station", "no-answer", true);
      const refused = await command({ do: "throw", address: 21, to: "R" });
      expect(problem(refused)).toMatch(/did not answer "PACKET .*" within 1.5 s. Look at its power/);
      await fault("station", "no-answer", false);
      expect((await command({ do: "throw", address: 21, to: "R" })).body.moved).toEqual(["D1-1"]);
    });

    it("say that it closed in the middle of an answer, and are reached again", async () => {
      await fault("station", "closes", true);
      expect(problem(await command({ do: "read", ...of }))).toMatch(/closed the connection in the middle of it/);
      await fault("station", "closes", false);
      expect((await command({ do: "read", ...of })).body.value).toBe("3");
    });

    it("give back what was read, right or wrong", async () => {
      await fault("station", "wrong-read", true);
      expect((await command({ do: "write", ...of, value: "4" })).body.value).toBe("255");
    });

    it("write nothing when power goes in the middle, and say so", async () => {
      await fault("station", "power-lost", true);
      expect(problem(await command({ do: "write", ...of, value: "9" }))).toMatch(
        /did not answer "WRITE SB1 1 speed = 9"/,
      );
      await fault("station", "power-lost", false);
      expect((await command({ do: "read", ...of })).body.value).toBe("4");
      expect((await command({ do: "write", ...of, value: "9" })).body.value).toBe("9");
    });

    it("answer while it babbles", async () => {
      await fault("station", "babbles", true);
      await fault("bus", "babbles", true);
      expect((await command({ do: "throw", address: 21, to: "N" })).body.moved).toEqual(["D1-1"]);
      expect((await command({ do: "dump", labels: ["ON1"] })).body.silent).toEqual([]);
    });

    it("hear nothing of a shorted bus, and nothing of a node without power", async () => {
      await fault("bus", "node-missing", true);
      expect((await command({ do: "dump", labels: ["ON1", "ON2"] })).body.silent).toEqual(["ON2"]);
      await fault("bus", "shorted", true);
      expect(problem(await command({ do: "work", on: "bus", label: "IN1", way: 1, made: true }))).toMatch(
        /event bus did not answer .* Look at the two terminators/,
      );
    });

    it("leave no board in programming when its address does not come", async () => {
      await command({ do: "program", label: "D2", way: 1, address: 31 });
      const refused = await command({ do: "program", label: "D2", way: 2, address: 3000 });
      expect(problem(refused)).toMatch(/No decoder can have the address 3000/);
      // nothing takes the next address for its own
      expect((await command({ do: "throw", address: 31, to: "N" })).body).toEqual({ moved: ["D2-1"], took: [] });
    });

    it("let one window program a device at a time", async () => {
      await fault("station", "no-answer", true);
      const first = command({ do: "program", label: "D1", way: 1, address: 21 });
      await new Promise((resolve) => setTimeout(resolve, 200));
      expect(problem(await command({ do: "program", label: "D1", way: 2, address: 22 }))).toBe(
        "Another window is programming D1. Wait until it has done.",
      );
      expect((await first).status).toBe(502);
    });

    it("have no such fault, and take no such command", async () => {
      expect((await fault("station", "toothache", true)).status).toBe(502);
      for (const body of [{}, { do: "dance" }, { do: "throw", address: -1, to: "N" }, { do: "bus", text: "no end" }])
        expect((await command(body)).status).toBe(400);
    });
  });

  it("are gone when they are stopped, and whoever listens is told", async () => {
    const response = await fetch(`${base}/events`);
    expect((await post("stop")).status).toBe(204);
    expect(await response.text()).toMatch(/event: stopped\ndata: \{\}\n\n$/);
    expect((await command({ do: "throw", address: 21, to: "R" })).status).toBe(502);
  });
});

it("go with the railway that they stand in for", { timeout: 60_000 }, async () => {
  const started = await live.start(base.split("/").at(-2) ?? "");
  expect(started.status.gateways).toHaveLength(3);
  const removed = await fetch(base.replace(/\/live$/, ""), { method: "DELETE" });
  expect(removed.status).toBe(204);
  await expect(started.ask("bus", "DUMP ON1;")).rejects.toThrow(/Nothing of this railway is on the event bus/);
});

it("end when another database takes the place of the one that they stood in for", { timeout: 60_000 }, async () => {
  const id = store.create(openRailwayFile(readFileSync(DEMO, "utf8")));
  const started = await live.start(id);
  expect(started.status.gateways).toHaveLength(3);
  store.use(openDatabase(join(folder, "other")));
  await expect(started.ask("bus", "DUMP ON1;")).rejects.toThrow(/Nothing of this railway is on the event bus/);
  expect(store.list()).toEqual([]);
});

it("lets go of what babbles without an end", async () => {
  const sockets: Socket[] = [];
  const babbler = createTcpServer((socket) => {
    sockets.push(socket);
    socket.on("error", () => socket.destroy());
    socket.on("data", () => socket.write("x".repeat(70_000)));
  });
  await new Promise<void>((resolve) => babbler.listen(0, "127.0.0.1", resolve));
  const called = { name: "babbler", lookAt: "it", end: "\n" } as const;
  const gateway = await TcpGateway.open((babbler.address() as AddressInfo).port, called, 5_000);
  await expect(gateway.ask("HELLO")).rejects.toThrow(/babbler babbles: 65536 characters without an end/);
  expect(gateway.isOpen).toBe(false);
  await expect(gateway.ask("HELLO")).rejects.toThrow(/babbles/);
  for (const socket of sockets) socket.destroy();
  babbler.close();
  await expect(TcpGateway.open(1, called, 100)).rejects.toThrow(/cannot be reached/);
});
