// What a window believes of what the server sends.
import { FORM_HEADER, RECORD_FORM } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { afterEach, expect, it, vi } from "vitest";
import { httpServer, ServerError } from "./server.ts";

afterEach(() => vi.unstubAllGlobals());

const railway = { id: "r1", revision: 3, stamp: "s", record: smallRailway(), undo: null, redo: null };
/** The same with turnouts of a hand that there is not. */
const strange = {
  ...railway,
  record: { ...railway.record, turnouts: railway.record.turnouts.map((each) => ({ ...each, hand: "upwards" })) },
};

function answers(body: unknown, headers: Record<string, string> = {}, status = 200): void {
  vi.stubGlobal("fetch", async () => new Response(JSON.stringify(body), { status, headers }));
}

it("opens a railway, whether it has to look at it or a server of the same form has done so", async () => {
  answers(railway);
  expect(await httpServer.open("r1")).toEqual(railway);
  answers(railway, { [FORM_HEADER]: RECORD_FORM });
  expect(await httpServer.open("r1")).toEqual(railway);
});

it.each<[string, Record<string, string>]>([
  ["no form", {}],
  ["another form", { [FORM_HEADER]: "0000000000000000" }],
])("refuses what it cannot read from a server that says %s, with where it stands", async (_, headers) => {
  answers(strange, headers);
  const error = await httpServer.open("r1").catch((each: unknown) => each);
  expect(error).toBeInstanceOf(ServerError);
  expect(String(error)).toMatch(/The server's answer cannot be read: .*hand/);
});

it("tells a refusal in the server's words", async () => {
  answers({ error: { message: "There is no such railway here." } }, { [FORM_HEADER]: RECORD_FORM }, 404);
  await expect(httpServer.open("r1")).rejects.toThrow("There is no such railway here.");
});
