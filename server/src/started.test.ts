// The server as a program: started, ended, killed.
import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Edit, putEdit } from "@alderman/core";
import Database from "better-sqlite3";
import { afterEach, beforeEach, expect, it } from "vitest";

const HOUSE = join(import.meta.dirname, "../..");
const PROGRAM = ["--enable-source-maps", "server/dist/main.js", "--api-only"];

let folder: string;
const running = new Set<ChildProcess>();

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "alderman-"));
});
afterEach(() => {
  for (const child of running) child.kill("SIGKILL");
  running.clear();
  rmSync(folder, { recursive: true, force: true });
});

async function start(...args: string[]): Promise<{ child: ChildProcess; address: string }> {
  const child = spawn(process.execPath, [...PROGRAM, "--port", "0", "--data", folder, ...args], { cwd: HOUSE });
  running.add(child);
  const address = await new Promise<string>((done, fail) => {
    child.stdout.on("data", (text) => {
      const found = /http:\/\/\S+/.exec(String(text));
      if (found) done(found[0]);
    });
    child.on("exit", (code) => fail(new Error(`The server ended with ${code}.`)));
  });
  return { child, address };
}

/** Starts a server that cannot run, and gives what it says. */
function refusal(args: string[], env: NodeJS.ProcessEnv = {}) {
  const { status, stderr } = spawnSync(process.execPath, [...PROGRAM, ...args], {
    cwd: HOUSE,
    encoding: "utf8",
    env: { ...process.env, ...env },
  });
  return { status, stderr };
}

interface Answer {
  id: string;
  revision: number;
  record: { zones: unknown[]; turnouts: unknown[] };
}

const ask = async (address: string, path: string, body?: unknown) => {
  const response = await fetch(
    `${address}/api/${path}`,
    body === undefined
      ? {}
      : { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) },
  );
  return (await response.json()) as Answer;
};

it("keeps every acknowledged edit through twenty kills in the middle of edits", { timeout: 400_000 }, async () => {
  let acknowledged = 0;
  let id = "";
  for (let round = 0; round < 20; round++) {
    const { child, address } = await start();
    if (id === "") id = (await ask(address, "railways", { name: "Killed" })).id;
    const found = await ask(address, `railways/${id}`);
    // one edit may have been written without its answer getting out
    expect([acknowledged, acknowledged + 1]).toContain(found.revision);
    expect(found.record.zones).toHaveLength(found.revision);
    acknowledged = found.revision;
    let kill: NodeJS.Timeout | undefined;
    try {
      for (;;) {
        const number = acknowledged + 1;
        const edit: Edit = putEdit("zone", {
          id: `z${number}`,
          label: `Z${number}`,
          name: "",
          order: number,
          commons: null,
          plasticJoints: 0,
        });
        const answer = await ask(address, `railways/${id}/edits`, {
          revision: acknowledged,
          words: `Zone ${number}`,
          edits: [edit],
        });
        expect(answer.revision).toBe(number);
        acknowledged = number;
        // from the first edit on, however long that takes on a busy machine
        kill ??= setTimeout(() => child.kill("SIGKILL"), 20 + ((round * 37) % 90));
      }
    } catch (error) {
      // the connection breaks when the server dies; anything else is a failure
      if (!(error instanceof TypeError)) throw error;
    } finally {
      clearTimeout(kill);
      running.delete(child);
    }
  }
  expect(acknowledged).toBeGreaterThanOrEqual(20);
  const database = new Database(join(folder, "alderman.db"));
  expect(database.pragma("integrity_check", { simple: true })).toBe("ok");
  expect(database.pragma("foreign_key_check")).toEqual([]);
});

it("keeps everything when it is started a second time, by option and by environment variable", async () => {
  const first = await start("--demo");
  const [railway] = (await ask(first.address, "railways")) as unknown as { id: string; name: string }[];
  expect(railway!.name).toBe("Skerrin Ferry");
  first.child.kill("SIGTERM");
  await new Promise((done) => first.child.on("exit", done));
  const second = await start("--demo");
  expect(await ask(second.address, "railways")).toEqual([expect.objectContaining({ id: railway!.id })]);
});

it("does not share its folder with a second one, and hands it on when it ends", async () => {
  const first = await start();
  const { id } = await ask(first.address, "railways", { name: "Mine" });
  const { status, stderr } = refusal(["--port", "0", "--data", folder]);
  expect(status).toBe(1);
  expect(stderr).toMatch(/^Another Alderman is at work on .*\n$/);
  first.child.kill("SIGTERM");
  await new Promise((done) => first.child.on("exit", done));
  // a clean end leaves the one file
  expect(readdirSync(folder).filter((name) => name.startsWith("alderman.db"))).toEqual(["alderman.db"]);
  const second = await start();
  expect(await ask(second.address, `railways/${id}`)).toMatchObject({ revision: 0 });
});

it("is backed up and put back as a command, while no server runs", async () => {
  const command = (...args: string[]) =>
    spawnSync(process.execPath, ["server/dist/backup.js", ...args, "--data", folder], {
      cwd: HOUSE,
      encoding: "utf8",
    });
  const running = await start();
  const { id } = await ask(running.address, "railways", { name: "Kept" });
  expect(command("make").stderr).toMatch(/Another Alderman is at work/);
  running.child.kill("SIGTERM");
  await new Promise((done) => running.child.on("exit", done));
  expect(command("restore").stdout).toMatch(/There are no backups/);
  expect(command("make").stdout).toMatch(/alderman-asked-.*\.db, \d+ kB, read over and sound\.\n$/);
  rmSync(join(folder, "alderman.db"));
  const [, name] = /restore -- (\S+)/.exec(command("restore").stdout)!;
  expect(command("restore", name!).stdout).toMatch(/is the database of .* now\.\n$/);
  expect(command("restore", "nothing.db")).toMatchObject({ status: 1, stderr: "There is no backup nothing.db.\n" });
  expect(command("restore", "--fast")).toMatchObject({ status: 1 });
  const again = await start();
  expect(await ask(again.address, `railways/${id}`)).toMatchObject({ revision: 0 });
});

it("tells open windows through server-sent events", async () => {
  const { address } = await start();
  const { id } = await ask(address, "railways", { name: "Two windows" });
  const stream = await fetch(`${address}/api/railways/${id}/events`);
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  const next = async () => (await reader.read()).value ?? "";
  expect(await next()).toContain('event: hello\ndata: {"revision":0,');
  await ask(address, `railways/${id}/edits`, {
    revision: 0,
    words: "One zone",
    edits: [putEdit("zone", { id: "a", label: "A", name: "", order: 1, commons: null, plasticJoints: 0 })],
  });
  const told = await next();
  expect(told).toContain("event: change");
  expect(told).toContain('"words":"One zone"');
  await reader.cancel();
});

it("says what to do about an occupied port", async () => {
  const holder = createServer();
  await new Promise<void>((done) => holder.listen(0, "127.0.0.1", done));
  const address = holder.address();
  const port = typeof address === "object" && address ? address.port : 0;
  const { status, stderr } = await new Promise<{ status: number | null; stderr: string }>((done) => {
    const child = spawn(process.execPath, [...PROGRAM, "--data", folder, "--port", String(port)], { cwd: HOUSE });
    let text = "";
    child.stderr.on("data", (part) => {
      text += part;
    });
    child.on("exit", (code) => done({ status: code, stderr: text }));
  });
  holder.close();
  expect(status).toBe(1);
  expect(stderr).toMatch(
    new RegExp(
      `^Port ${port} is in use by another program\\. Choose a free one, as in: npm start -- --port ${port + 1}\n$`,
    ),
  );
});

it("says what to do about a data folder that cannot be written", () => {
  const file = join(folder, "file");
  writeFileSync(file, "");
  const { status, stderr } = refusal(["--port", "0"], { ALDERMAN_DATA: join(file, "inside") });
  expect(status).toBe(1);
  expect(stderr).toMatch(/cannot be written \(E\w+\)\. Choose another with --data/);
  if (process.getuid?.() === 0) return;
  chmodSync(folder, 0o500);
  expect(refusal(["--port", "0", "--data", folder]).stderr).toMatch(/cannot be written/);
});

it("leaves a file alone that is no database, and one of a newer version", () => {
  writeFileSync(join(folder, "alderman.db"), "this is a letter, not a database, and it is long enough to be looked at");
  expect(refusal(["--port", "0", "--data", folder]).stderr).toMatch(/cannot be opened .* Nothing in it was changed/);
  rmSync(join(folder, "alderman.db"));
  const newer = new Database(join(folder, "alderman.db"));
  newer.pragma("user_version = 99");
  newer.close();
  expect(refusal(["--port", "0", "--data", folder]).stderr).toMatch(/written by a newer version/);
});

it("says which options there are", () => {
  expect(refusal(["--speed", "9"]).stderr).toMatch(
    /Unknown option '--speed'[\s\S]*Options: --port NUMBER, --data FOLDER, --demo/,
  );
  expect(refusal(["--port", "http"]).stderr).toMatch(/--port http is no port/);
});

it("reckons as a command: JSON in, JSON out, exit 2 with a line of JSON for bad input", () => {
  const calc = (name: string, input: string) =>
    spawnSync(process.execPath, ["server/dist/calc.js", name], {
      cwd: HOUSE,
      input,
      encoding: "utf8",
    });
  const good = calc("led-resistor", '{"supplyVolts":5,"forwardVolts":2,"targetMilliamps":10}');
  expect(good.status).toBe(0);
  expect(JSON.parse(good.stdout)).toMatchObject({ chosenOhms: 300 });
  const bad = calc("led-resistor", '{"supplyVolts":5,"forwardVolts":2}');
  expect([bad.status, bad.stdout]).toEqual([2, ""]);
  expect(JSON.parse(bad.stderr)).toEqual({
    error: { message: expect.stringContaining("targetMilliamps"), path: ["targetMilliamps"] },
  });
  expect(bad.stderr.trim().split("\n")).toHaveLength(1);
  expect(calc("led-resistor", "{").status).toBe(2);
  expect(JSON.parse(calc("none", "{}").stderr).error.message).toMatch(
    /There are: led-resistor, led-current, resistor-bands/,
  );
});

it("starts the other programs that it is built with: one that reads a large file, and the stand-ins of its railway", async () => {
  const { child, address } = await start("--demo", "--stand-ins");
  const body = readFileSync(join(HOUSE, "samples/club-400.json"));
  const taken = await fetch(`${address}/api/railways/import`, { method: "POST", body });
  expect(taken.status).toBe(201);
  const { id } = (await taken.json()) as Answer;
  expect((await ask(address, `railways/${id}`)).record.turnouts).toHaveLength(400);
  const began = await fetch(`${address}/api/railways/${id}/live/start`, { method: "POST" });
  const { gateways } = (await began.json()) as { gateways: { name: string }[] };
  expect(gateways.map(({ name }) => name)).toContain("station");
  child.kill();
});
