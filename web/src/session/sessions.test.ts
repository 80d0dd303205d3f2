// What an owner sees of edits on their way, with a server and a browser that the test plays.
import {
  Derived,
  type Edit,
  emptyRecord,
  putEdit,
  type RailwayRecord,
  setWire,
  turnoutsFromTable,
} from "@alderman/core";
import fc from "fast-check";
import { beforeEach, expect, it, vi } from "vitest";
import { PlayedBrowser, PlayedServer, playedServices } from "../../testing/playedServer.ts";
import { makeStore } from "../store/makeStore.ts";
import {
  commit,
  keepAsCopy,
  leaveRailway,
  openRailway,
  resumeWaiting,
  setAsMine,
  takeFile,
  turnBack,
} from "./actions.ts";
import { beforeOf, type Entry, merged, replay } from "./queue.ts";
import { ServerError } from "./server.ts";
import { shownSession } from "./shownSession.ts";

/** Series of what two windows do, and their seed; the campaign has many. */
const RUNS = Number(process.env.CAMPAIGN_RUNS ?? 25);

const zone = (id: string, label: string, order = 1): Edit =>
  putEdit("zone", { id, label, name: "", order, commons: null, plasticJoints: 0 });

/** A turnout with what it needs, as a table. */
const EQUIPPED = [
  ["label", "motor", "driver", "control"],
  ["A", "twin-coil-surface", "cdu", "toggle-centre-off"],
];

let server: PlayedServer;
let browser: PlayedBrowser;

/** A window of the browser: its store, and what an owner would do and see. */
function newWindow(name = "window01") {
  const store = makeStore(playedServices(server, browser.queue(name)));
  return {
    store,
    open: (id: string) => store.dispatch(openRailway(id)),
    leave: () => store.dispatch(leaveRailway()),
    put: (...edits: Edit[]) => store.dispatch(commit({ words: `put ${JSON.stringify(edits).slice(0, 120)}`, edits })),
    undo: () => store.dispatch(turnBack("undo")),
    redo: () => store.dispatch(turnBack("redo")),
    session: (id?: string) => (id ? store.getState().sessions.byId[id] : shownSession(store.getState())),
    zones: () => shownSession(store.getState())?.record?.zones.map(({ label }) => label),
    notices: () => store.getState().notices.map(({ sentence }) => sentence),
  };
}

const zonesOf = (id: string) => server.railways.get(id)?.record.zones.map(({ label }) => label);
/** Waits until something holds. */
const until = (holds: () => unknown) =>
  vi.waitFor(() => expect(holds()).toBeTruthy(), { timeout: 15_000, interval: 2 });
const settled = (window: ReturnType<typeof newWindow>) =>
  until(() => window.session()?.record && window.session()?.queue.length === 0);

function gate() {
  let open: () => void = () => {};
  const wait = new Promise<void>((done) => {
    open = done;
  });
  return { wait, open };
}

beforeEach(() => {
  server = new PlayedServer();
  browser = new PlayedBrowser();
  server.add("a");
  server.add("b");
});

it("shows an edit at once, sends those that wait in order, and forgets them when they are confirmed", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  const slow = gate();
  server.fate = (request) => (request.startsWith("send") ? { wait: slow.wait } : {});
  window.put(zone("x", "X"));
  window.put(zone("y", "Y"));
  expect(window.zones()).toEqual(["X", "Y"]);
  expect(browser.kept).toHaveLength(2);
  slow.open();
  await settled(window);
  expect(zonesOf("a")).toEqual(["X", "Y"]);
  expect(window.session()?.confirmed?.revision).toBe(2);
  await until(() => browser.kept.length === 0);
});

it("has what the server proposes of the loom as soon as an edit is answered, whatever waits behind it", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  const slow = gate();
  server.fate = () => ({ wait: slow.wait });
  window.put(...turnoutsFromTable(window.session()!.record!, EQUIPPED).edits);
  window.put(zone("z", "Z"));
  expect(window.session()?.record?.wires).toEqual([]);
  slow.open();
  await settled(window);
  const { confirmed, record } = window.session()!;
  expect(record!.wires.length).toBeGreaterThan(5);
  expect(record).toEqual(confirmed!.record);
  expect(record).toEqual(server.railways.get("a")!.record);
  expect(window.zones()).toEqual(["Z"]);
});

/** A window of a railway that counts as large, in which a turnout was equipped: what is proposed of its loom is not written down yet. */
async function equippedWithoutPlan() {
  const railway = server.railways.get("a")!;
  railway.large = true;
  const window = newWindow();
  window.open("a");
  await settled(window);
  window.put(...turnoutsFromTable(window.session()!.record!, EQUIPPED).edits);
  await settled(window);
  return { window, railway };
}

it("takes what is proposed later on a large railway as a part of the edit that it follows from", async () => {
  const { window, railway } = await equippedWithoutPlan();
  expect(window.session()!.record!.wires).toEqual([]);

  // a wire that is about to be proposed is noted by hand, and typed on: that waits while the plan is written down
  const { loom } = new Derived(window.session()!.record!);
  const [wire] = loom.wires;
  const noted = setWire(window.session()!.record!, loom, wire!.id, { note: "cut" });
  server.silent = true;
  server.fate = (request) => (request.startsWith("send") ? { refuse: new ServerError("Away.", 0) } : {});
  window.put(...noted!.edits);
  window.put(zone("z", "Z"));
  railway.plan("plan-1");
  server.fate = () => ({});
  server.silent = false;
  await settled(window);
  expect(window.notices()).toEqual([]);
  const { record, turns } = window.session()!;
  expect(record).toEqual(railway.record);
  expect(record!.wires.length).toBeGreaterThan(5);
  expect(record!.wires.find(({ id }) => id === wire!.id)?.note).toBe("cut");
  expect(window.zones()).toEqual(["Z"]);
  expect(turns.undo).toMatch(/zone/);

  // undone three times, at once and then for good; and done again
  for (let turn = 0; turn < 3; turn++) window.undo();
  expect(window.session()!.record!.turnouts).toEqual([]);
  await settled(window);
  expect(window.session()!.record).toEqual(emptyRecord("a"));
  expect(railway.record).toEqual(emptyRecord("a"));
  for (let turn = 0; turn < 3; turn++) window.redo();
  await settled(window);
  expect(window.session()!.record).toEqual(record);
  expect(railway.record).toEqual(record);
});

it("keeps what waited in a closed window when a plan was written down meanwhile", async () => {
  const { window, railway } = await equippedWithoutPlan();
  const { loom } = new Derived(window.session()!.record!);
  const noted = setWire(window.session()!.record!, loom, loom.wires[0]!.id, { note: "cut" });
  server.away = true;
  window.put(...noted!.edits);
  await until(() => browser.kept.length === 1);
  railway.plan("plan-1");
  server.away = false;
  const again = newWindow();
  again.open("a");
  await settled(again);
  expect(again.notices()).toEqual([]);
  expect(railway.record.wires.find(({ id }) => id === loom.wires[0]!.id)?.note).toBe("cut");
  expect(again.session()!.record).toEqual(railway.record);
});

it("keeps edits apart when railways are switched while answers are slow", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  const slow = gate();
  server.fate = (request) => (request === "send edits a" ? { wait: slow.wait } : {});
  window.put(zone("x", "Of A"));
  window.put(zone("y", "Also of A"));
  window.leave();
  window.open("b");
  await settled(window);
  expect(window.zones()).toEqual([]);
  window.put(zone("x", "Of B"));
  await settled(window);
  expect(window.zones()).toEqual(["Of B"]);
  slow.open();
  await until(() => zonesOf("a")?.length === 2);
  expect([zonesOf("a"), zonesOf("b")]).toEqual([["Of A", "Also of A"], ["Of B"]]);
  // with nothing waiting, the railway that is not shown is let go, and no longer listened to
  await until(() => window.session("a") === undefined);
  expect(server.listeners.get("a")?.size).toBe(0);
  expect(server.listeners.get("b")?.size).toBe(1);
});

it("shows what was opened last, also when what was opened before answers later", async () => {
  const slow = gate();
  server.fate = (request) => (request === "open a" ? { wait: slow.wait } : {});
  const window = newWindow();
  window.open("a");
  window.leave();
  window.open("b");
  await settled(window);
  slow.open();
  await until(() => window.session("a") === undefined);
  expect(window.session()?.id).toBe("b");
  expect([server.listeners.get("a")?.size ?? 0, server.listeners.get("b")?.size]).toEqual([0, 1]);
});

it("applies what the server took although its answer was lost once only", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  for (const silent of [true, false]) {
    server.silent = silent;
    let losses = 2;
    server.fate = (request) => ({ lost: request.startsWith("send") && losses-- > 0 });
    window.put(zone(`z${silent}`, `Z${silent}`));
    await settled(window);
  }
  expect(server.railways.get("a")?.revisions).toHaveLength(2);
  expect(window.zones()).toEqual(["Zfalse", "Ztrue"]);
  expect(window.notices()).toEqual([]);
});

it("says that it tries again while there is no answer, and does", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  server.away = true;
  window.put(zone("x", "X"));
  await until(() => window.session()?.trouble?.kind === "unanswered");
  expect(window.zones()).toEqual(["X"]);
  const tries = server.asked.length;
  await until(() => server.asked.length > tries + 2);
  server.away = false;
  await settled(window);
  expect(window.session()?.trouble).toBeNull();
  expect(zonesOf("a")).toEqual(["X"]);
});

it.each([500, 507, 429])(
  "keeps an edit that meets status %s, with the server's own sentence, and sends it again",
  async (status) => {
    const window = newWindow();
    window.open("a");
    await settled(window);
    let refusals = 3;
    server.fate = (request) =>
      request.startsWith("send") && refusals-- > 0 ? { refuse: new ServerError("The disk is full.", status) } : {};
    window.put(zone("x", "X"));
    await until(() => window.session()?.trouble);
    expect(window.session()?.trouble?.sentence).toBe("The disk is full.");
    await settled(window);
    expect(zonesOf("a")).toEqual(["X"]);
  },
);

it("gives up an edit that the server refuses, says why, and says so of those that needed it", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  let first = true;
  server.fate = (request) => {
    const refuse = request.startsWith("send") && first ? { refuse: new ServerError("It is too large.", 413) } : {};
    if (request.startsWith("send")) first = false;
    return refuse;
  };
  window.put(zone("x", "X"));
  window.put({ op: "remove", kind: "zone", id: "x" });
  window.put(zone("y", "Y"));
  await settled(window);
  expect(window.zones()).toEqual(["Y"]);
  expect(window.notices()).toHaveLength(2);
  expect(window.notices()[0]).toMatch(/was not kept. It is too large/);
  expect(window.notices()[1]).toMatch(/was not kept. There is no zone "x" to remove/);
  expect(window.store.getState().notices.every(({ stays }) => stays)).toBe(true);
});

it("refuses what breaks a rule before it shows, of a field or between things", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  window.put(zone("x", "X"));
  expect(() => window.put(zone("y", "x"))).toThrow("There is already a zone called x. Choose another label.");
  expect(() => window.put(zone("y", "a label that is much too long"))).toThrow(
    "The label must have at most 24 characters.",
  );
  expect(window.zones()).toEqual(["X"]);
  await settled(window);
  expect(server.asked.filter((each) => each.startsWith("send"))).toHaveLength(1);
});

it("takes in what another window did, and goes on with what waits", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  server.silent = true;
  server.railways.get("a")?.elsewhere("other-1", zone("o", "Other"));
  window.put(zone("x", "X"));
  await settled(window);
  expect(window.zones()).toEqual(["Other", "X"]);
  expect(zonesOf("a")).toEqual(["Other", "X"]);
  expect(window.notices()).toEqual([]);
});

it.each(["told", "found out"])(
  "says of every waiting edit that another window's change met, when it is %s",
  async (how) => {
    const window = newWindow();
    window.open("a");
    await settled(window);
    server.silent = how === "found out";
    const slow = gate();
    let first = true;
    server.fate = (request) => {
      if (!request.startsWith("send") || !first) return {};
      first = false;
      return { wait: slow.wait, lost: true };
    };
    window.put(zone("w", "W"));
    window.put(zone("x", "Mine"));
    window.put(zone("y", "Y"));
    await until(() => zonesOf("a")?.length === 1);
    server.railways.get("a")?.elsewhere("other-1", zone("x", "Theirs"));
    slow.open();
    await settled(window);
    expect(zonesOf("a")).toEqual(["W", "Theirs", "Y"]);
    expect(window.zones()).toEqual(["W", "Theirs", "Y"]);
    expect(window.notices()).toHaveLength(1);
    expect(window.notices()[0]).toMatch(/Mine.*was not kept. The same thing was changed in another window/);
  },
);

it("knows its own edit when it is told of before the answer comes, its fields in another order", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  const slow = gate();
  server.fate = (request) => (request.startsWith("send") ? { wait: slow.wait } : {});
  const put = putEdit("zone", { commons: null, plasticJoints: 0, order: 1, name: "", label: "A", id: "a" });
  window.put(put);
  await until(() => window.session()?.queue.length === 0);
  slow.open();
  await new Promise((done) => setTimeout(done, 20));
  expect(window.session()?.confirmed?.revision).toBe(1);
  expect(server.asked.filter((each) => each.startsWith("send"))).toHaveLength(1);
  expect(window.notices()).toEqual([]);
});

it("undoes as often as it was asked, in order, behind what waits, and shows it at once", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  window.put(zone("x", "X"));
  await settled(window);
  const slow = gate();
  server.fate = (request) => (request.startsWith("send") ? { wait: slow.wait } : {});
  window.put(zone("y", "Y"));
  window.put(zone("z", "Z"));
  window.undo();
  expect(window.zones()).toEqual(["X", "Y"]);
  window.undo();
  expect(window.zones()).toEqual(["X"]);
  window.undo();
  expect(window.zones()).toEqual([]);
  window.redo();
  expect(window.zones()).toEqual(["X"]);
  slow.open();
  await settled(window);
  expect(zonesOf("a")).toEqual(["X"]);
  expect(server.asked.filter((each) => each.startsWith("send undo"))).toHaveLength(3);
  expect(server.railways.get("a")?.revisions).toHaveLength(7);
});

it("says that there is nothing to undo or redo, at once or when the server knows", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  window.undo();
  expect(window.notices()).toEqual(["There is nothing to undo."]);
  window.redo();
  expect(window.notices().at(-1)).toBe("There is nothing to redo.");
  window.put(zone("x", "X"));
  await settled(window);
  for (let press = 0; press < 3; press++) window.undo();
  await settled(window);
  expect(window.zones()).toEqual([]);
  expect(window.notices().at(-1)).toBe("There is nothing to undo.");
});

it("undoes offline, and makes it so when the server is back", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  window.put(zone("x", "X"));
  window.put(zone("y", "Y"));
  await settled(window);
  server.away = true;
  for (let press = 0; press < 2; press++) window.undo();
  expect(window.zones()).toEqual([]);
  server.away = false;
  await settled(window);
  expect(zonesOf("a")).toEqual([]);
});

it("fetches a railway while the browser still looks for what waited, and sends that afterwards", async () => {
  const entry: Entry = { id: "gone-1", kind: "edits", words: "put Z", edits: [zone("z", "Z")] };
  browser.kept.push({ railwayId: "a", entry, against: { revision: 0, stamp: "a" }, window: "gone" });
  const slow = gate();
  const queue = browser.queue();
  const looked = { ...queue, waiting: (id: string) => slow.wait.then(() => queue.waiting(id)) };
  const store = makeStore(playedServices(server, looked));
  store.dispatch(openRailway("a"));
  await until(() => server.asked.includes("open a"));
  // not shown before it is known what waits
  expect(shownSession(store.getState())?.record).toBeFalsy();
  slow.open();
  await until(() => zonesOf("a")?.includes("Z"));
  expect(shownSession(store.getState())?.record?.zones.map(({ label }) => label)).toEqual(["Z"]);
});

it("has what waited after a reload, sends it, and does not do again what the server had taken", async () => {
  const before = newWindow();
  before.open("a");
  await settled(before);
  let sends = 0;
  // the first is taken and its answer lost, and then the server is gone
  server.fate = (request) => {
    if (request.startsWith("send") && ++sends === 1) {
      server.away = true;
      return { lost: true };
    }
    return {};
  };
  server.away = false;
  before.put({ op: "railway", value: { ...server.railways.get("a")!.record.railway, note: "taken" } });
  before.put(zone("y", "Y"));
  await until(() => before.session()?.trouble);
  before.leave();
  expect(browser.kept).toHaveLength(2);

  server.away = false;
  server.fate = () => ({});
  const after = newWindow("window02");
  after.open("a");
  await settled(after);
  expect(after.zones()).toEqual(["Y"]);
  await until(() => zonesOf("a")?.length === 1);
  expect(server.railways.get("a")?.revisions.length).toBeGreaterThanOrEqual(1);
  expect(after.notices()).toEqual([]);
  await until(() => browser.kept.length === 0);
});

it("sends what an earlier window left for a railway that nobody has opened", async () => {
  server.away = true;
  browser.kept.push({
    ...{ railwayId: "b", window: "earlier1", against: { revision: 0, stamp: "b" } },
    entry: { id: "earlier1-1", kind: "edits", words: "left", edits: [zone("x", "X")] },
  });
  const window = newWindow();
  await window.store.dispatch(resumeWaiting());
  await until(() => window.session("b")?.trouble?.kind === "unanswered");
  server.away = false;
  await until(() => zonesOf("b")?.length === 1);
  await until(() => window.session("b") === undefined);
});

it("tells of what waited since an earlier day and was changed by others meanwhile", async () => {
  const railway = server.railways.get("a")!;
  railway.elsewhere("other-1", zone("x", "Theirs"));
  browser.kept.push({
    ...{ railwayId: "a", window: "earlier1", against: { revision: 0, stamp: "a" } },
    entry: { id: "earlier1-1", kind: "edits", words: "mine", edits: [zone("x", "Mine")] },
  });
  const window = newWindow();
  window.open("a");
  await settled(window);
  expect(window.zones()).toEqual(["Theirs"]);
  expect(window.notices()[0]).toMatch(/"mine" was not kept. The same thing was changed/);
});

/** A zone with more than one field of its own. */
const named = (id: string, label: string, name: string, plasticJoints = 0): Edit =>
  putEdit("zone", { id, label, name, order: 1, commons: null, plasticJoints });

const fieldsOf = (id: string) => server.railways.get(id)?.record.zones.map((each) => [each.label, each.name]);

it.each(["told at once", "away"])(
  "keeps what two windows set in different fields of one thing, when it is %s",
  async (how) => {
    const railway = server.railways.get("a")!;
    railway.elsewhere("other-0", named("x", "X", "shed"));
    const window = newWindow();
    window.open("a");
    await settled(window);
    server.silent = how === "away";
    server.away = how === "away";
    const slow = gate();
    server.fate = (request) => (request.startsWith("send") ? { wait: slow.wait } : {});
    window.put(named("x", "X", "engine shed"));
    window.put(named("x", "X", "engine shed", 2));
    railway.elsewhere("other-1", named("x", "X1", "shed"));
    slow.open();
    server.away = false;
    await settled(window);
    expect(fieldsOf("a")).toEqual([["X1", "engine shed"]]);
    expect(railway.record.zones[0]?.plasticJoints).toBe(2);
    expect(window.session()?.record?.zones).toEqual(railway.record.zones);
    expect(window.notices()).toEqual([]);
  },
);

it("tells both values of what two windows set otherwise, and keeps the rest", async () => {
  const railway = server.railways.get("a")!;
  railway.elsewhere("other-0", named("x", "X", "shed"));
  const window = newWindow();
  window.open("a");
  await settled(window);
  const slow = gate();
  server.fate = (request) => (request.startsWith("send") ? { wait: slow.wait } : {});
  window.put(named("x", "X", "engine shed", 2));
  railway.elsewhere("other-1", named("x", "X", "coal stage"));
  slow.open();
  await settled(window);
  expect(fieldsOf("a")).toEqual([["X", "coal stage"]]);
  expect(railway.record.zones[0]?.plasticJoints).toBe(2);
  expect(window.notices()).toHaveLength(1);
  expect(window.notices()[0]).toMatch(
    /^Of "put .*", name was set to coal stage in another window, which stays, and to engine shed here\.$/,
  );
  // and mine can be had after all
  const [{ mine } = { mine: undefined }] = window.store.getState().notices;
  window.store.dispatch(setAsMine(mine!));
  await settled(window);
  expect(fieldsOf("a")).toEqual([["X", "engine shed"]]);
});

it.each([0, 3])("tells the other window as well after %i tries, which can have theirs", async (failures) => {
  server.railways.get("a")!.elsewhere("other-0", named("x", "X", "shed"));
  const [window, other] = [newWindow("window01"), newWindow("window02")];
  window.open("a");
  other.open("a");
  await Promise.all([settled(window), settled(other)]);
  const slow = gate();
  let left = failures;
  server.fate = (request) =>
    request.startsWith("send") ? { wait: slow.wait } : { lost: request.startsWith("clash") && left-- > 0 };
  // the other window is first, and neither knows of the other's yet
  server.silent = true;
  other.put(named("x", "X", "coal stage"));
  window.put(named("x", "X", "engine shed", 2));
  server.silent = false;
  slow.open();
  await Promise.all([settled(window), settled(other)]);
  await until(() => window.notices().length === 1 && other.notices().length === 1);
  const [told] = other.notices();
  expect(fieldsOf("a")).toHaveLength(1);
  const [loser, winner] = told?.includes("stays coal stage") ? [window, other] : [other, window];
  expect(loser.notices()[0]).toMatch(/name was set to .* in another window, which stays, and to .* here/);
  expect(winner.notices()[0]).toMatch(/name was set to .* in another window, and stays .*/);
  const [{ mine, choice } = { mine: undefined, choice: undefined }] = winner.store.getState().notices;
  expect(choice).toBe("Take theirs");
  winner.store.dispatch(setAsMine(mine!));
  await settled(winner);
  expect(fieldsOf("a")).toEqual([["X", mine!.things[0]!.fields.name]]);
  // told again of what stands so now, nobody says anything
  const before = winner.notices().length;
  server.tell("a", { kind: "clash", clash: { by: "window09-1", words: "again", things: mine!.things } });
  expect(winner.notices()).toHaveLength(before);
});

it("merges every field that one side alone has set, whatever waits, and tells every other", () => {
  const zoneFields = fc.record({
    label: fc.constantFrom("A", "B", "C"),
    name: fc.constantFrom("", "p", "q"),
    plasticJoints: fc.constantFrom(0, 1, 2),
  });
  const value = (fields: { label: string; name: string; plasticJoints: number }) => {
    return { id: "x", order: 1, commons: null, ...fields };
  };
  fc.assert(
    fc.property(zoneFields, fc.array(zoneFields, { minLength: 1, maxLength: 4 }), zoneFields, (was, mine, theirs) => {
      const with_ = (fields: typeof was): RailwayRecord => ({ ...emptyRecord("a"), zones: [value(fields)] });
      let before = with_(was);
      const queue = mine.map((fields, index): Entry => {
        const edits = [putEdit("zone", value(fields))];
        const entry: Entry = {
          id: `w-${index}`,
          kind: "edits",
          words: `${index}`,
          edits,
          before: beforeOf(before, edits),
        };
        before = with_(fields);
        return entry;
      });
      const now = with_(theirs);
      const { queue: left, lost } = merged(queue, [putEdit("zone", value(theirs))], now);
      const { record, lost: refused } = replay(now, left);
      expect(refused).toEqual([]);
      const [end] = record.zones;
      const last = mine.at(-1)!;
      for (const field of ["label", "name", "plasticJoints"] as const) {
        const iSet = mine.some((fields) => fields[field] !== was[field]);
        const theySet = theirs[field] !== was[field];
        // the first of mine to set what they have set otherwise is told; what I set afterwards is set on theirs
        if (!iSet) expect(end?.[field]).toBe(theirs[field]);
        else if (!theySet) expect(end?.[field]).toBe(last[field]);
        else expect([theirs[field], ...mine.map((fields) => fields[field])]).toContain(end?.[field]);
        // whoever set first what they have set otherwise is told of it
        const first = mine.find((fields) => fields[field] !== was[field])?.[field];
        if (iSet && theySet && first !== theirs[field])
          expect(lost.map(({ why }) => why).join()).toContain(field === "plasticJoints" ? "plastic joints" : field);
      }
      if (lost.length === 0)
        for (const field of ["label", "name", "plasticJoints"] as const)
          expect([last[field], theirs[field]]).toContain(end?.[field]);
    }),
  );
});

/** A window that knows more than the file, since an older file was put back. */
async function windowAhead(older: number) {
  const window = newWindow();
  window.open("a");
  await settled(window);
  for (const id of ["x", "y", "z"]) window.put(zone(id, id.toUpperCase()));
  await settled(window);
  const railway = server.railways.get("a")!;
  railway.revisions.length = older;
  railway.undo = railway.undo.filter(([index = 0]) => index < older);
  return { window, railway };
}

it("stops, and asks which is to count, when an older file was put back", async () => {
  const { window } = await windowAhead(1);
  server.asked.length = 0;
  window.put(zone("w", "W"));
  await until(() => window.session()?.trouble?.kind === "diverged");
  await new Promise((done) => setTimeout(done, 60));
  // no loop of requests: one was refused
  expect(server.asked.length).toBeLessThan(4);
  expect(window.zones()).toEqual(["W", "X", "Y", "Z"]);

  const id = await window.store.dispatch(keepAsCopy());
  expect(server.railways.get(id ?? "")?.record.zones).toHaveLength(4);
  expect(server.railways.get(id ?? "")?.record.railway.name).toMatch(/as this window had it/);
  expect(zonesOf("a")).toEqual(["X"]);
  await until(() => browser.kept.length === 0);
});

it("keeps a copy of a railway whose name is as long as a name may be", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  const railway = window.session()!.record!.railway;
  window.put({ op: "railway", value: { ...railway, name: "n".repeat(80) } });
  await settled(window);
  const id = await window.store.dispatch(keepAsCopy());
  expect(server.railways.get(id ?? "")?.record.railway.name).toMatch(/^n+, as this window had it$/);
});

it("notices an older file that has gone on by itself, also without an edit here", async () => {
  const { window, railway } = await windowAhead(1);
  server.silent = true;
  for (const id of ["p", "q"]) railway.elsewhere(`other-${id}`, zone(id, id.toUpperCase()));
  server.tell("a", { kind: "hello", version: railway.version });
  await until(() => window.session()?.trouble?.kind === "diverged");
  window.store.dispatch(takeFile());
  await settled(window);
  expect(window.zones()).toEqual(["P", "Q", "X"]);
  expect(window.session()?.trouble).toBeNull();
  // nothing is left of the session before
  await until(() => server.listeners.get("a")?.size === 1);
});

it("asks again for a railway that was not there, and has it once it is", async () => {
  const window = newWindow();
  const isGone = () => window.session("nowhere")?.trouble?.kind === "gone";
  for (let opened = 1; opened <= 3; opened++) {
    window.open("nowhere");
    await until(() => server.asked.filter((each) => each === "open nowhere").length === opened && isGone());
  }
  // the sessions before have ended by then, and none of them took the last one with it
  await new Promise((done) => setTimeout(done, 20));
  expect(isGone()).toBe(true);
  server.add("nowhere");
  window.open("nowhere");
  await settled(window);
  window.put(zone("z", "Z"));
  await settled(window);
  expect(zonesOf("nowhere")).toEqual(["Z"]);
  expect(server.listeners.get("nowhere")?.size).toBe(1);
});

it("offers what it knows when the railway was removed elsewhere, and when it never was there", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  server.tell("a", { kind: "removed" });
  await until(() => window.session()?.trouble?.kind === "gone");
  expect(window.session()?.record).not.toBeNull();
  window.leave();
  window.open("nowhere");
  await until(() => window.session("nowhere")?.trouble?.kind === "gone");
  expect(window.session("nowhere")?.trouble?.sentence).toBe("There is no such railway here.");
  window.leave();
  await until(() => Object.keys(window.store.getState().sessions.byId).length === 0);
});

it("asks for what it has missed when it was told something unclear, or too far ahead", async () => {
  const window = newWindow();
  window.open("a");
  await settled(window);
  server.silent = true;
  server.railways.get("a")?.elsewhere("other-1", zone("x", "X"));
  const change = server.railways.get("a")!.elsewhere("other-2", zone("y", "Y"));
  server.tell("a", { kind: "change", change });
  await until(() => window.zones()?.length === 2);
  server.railways.get("a")?.elsewhere("other-3", zone("z", "Z"));
  server.tell("a", { kind: "unclear" });
  await until(() => window.zones()?.length === 3);
});

it(
  "ends with both windows and the server the same, whatever is slow, lost or refused in between",
  async () => {
    const act = fc.record({
      window: fc.nat(1),
      what: fc.constantFrom("put", "put", "put", "undo", "redo"),
      id: fc.constantFrom("p", "q", "r", "s", "t", "u"),
      /** Which of the next answers are lost. */
      lost: fc.array(fc.boolean(), { minLength: 1, maxLength: 4 }),
      wait: fc.nat(4),
      silent: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(act, { minLength: 1, maxLength: 14 }), async (acts) => {
        server = new PlayedServer();
        browser = new PlayedBrowser();
        server.add("a");
        const windows = [newWindow("window01"), newWindow("window02")];
        for (const window of windows) {
          window.open("a");
          await settled(window);
        }
        let done = 0;
        const typed: [window: ReturnType<typeof newWindow>, label: string][] = [];
        for (const { window: which, what, id, lost, wait, silent } of acts) {
          const window = windows[which]!;
          server.silent = silent;
          let sent = 0;
          server.fate = (request) =>
            request.startsWith("send")
              ? {
                  lost: sent < 4 && lost[sent++ % lost.length] === true,
                  wait: new Promise((ok) => setTimeout(ok, wait)),
                }
              : {};
          const label = `${id}${done++}`;
          if (what === "put") {
            window.put(zone(id, label));
            typed.push([window, label]);
          } else if (what === "undo") window.undo();
          else window.redo();
          if (wait === 0) await new Promise((ok) => setTimeout(ok, 1));
        }
        server.fate = () => ({});
        server.silent = false;
        for (const window of windows) await settled(window);
        server.tell("a", { kind: "hello", version: { revision: 99, stamp: "later" } });
        for (const window of windows)
          await until(() => window.session()?.confirmed?.revision === server.railways.get("a")?.revisions.length);
        for (const window of windows) expect(window.session()?.record).toEqual(server.railways.get("a")?.record);
        // whatever was typed is in the history, or its window was told that it is not
        const history = JSON.stringify(server.railways.get("a")?.revisions.map(({ edits }) => edits));
        for (const [window, label] of typed)
          expect(history.includes(`"${label}"`) || window.notices().some((told) => told.includes(label)), label).toBe(
            true,
          );
        expect(new Set(server.railways.get("a")?.revisions.map(({ stamp }) => stamp)).size).toBe(
          server.railways.get("a")?.revisions.length,
        );
        for (const window of windows) window.leave();
      }),
      { numRuns: RUNS },
    );
  },
  60_000 + RUNS * 1_000,
);
