// Which threads something concerns, by the index, is what a look at each thread finds.
import { expect, it } from "vitest";
import { EXHIBITS } from "../../testing/exhibits.ts";
import { Derived } from "../derive.ts";
import { devicesOfThread } from "../schematic/thread.ts";
import { threadsOfTurnouts, threadsOfWires, threadsWith } from "./threadsOf.ts";

it("finds the threads of devices, turnouts and wires in their order, each once", () => {
  for (const make of Object.values(EXHIBITS)) {
    const { record, schematic, loom } = new Derived(make());
    const { threads } = schematic;
    const devices = record.devices.filter((_, index) => index % 3 === 0).map(({ id }) => id);
    expect(threadsWith(threads, devices)).toEqual(
      threads.filter((thread) => devicesOfThread(thread).some((id) => devices.includes(id))),
    );
    const turnouts = record.turnouts.filter((_, index) => index % 2 === 1).map(({ id }) => id);
    const isOf = (id: string) => turnouts.includes(id);
    expect(threadsOfTurnouts(threads, turnouts)).toEqual(
      threads.filter(({ turnout, followers }) => [turnout, ...followers].some(({ id }) => isOf(id))),
    );
    for (const wire of loom.wires.filter((_, index) => index % 7 === 0)) {
      const ends = [wire.from, wire.to].map(({ of }) => of?.deviceId);
      expect(threadsOfWires(threads, [wire])).toEqual(
        threads.filter(
          (thread) =>
            [thread.turnout, ...thread.followers].some(({ id }) => id === wire.turnoutId) ||
            devicesOfThread(thread).some((id) => ends.includes(id)),
        ),
      );
    }
    expect(threadsWith(threads, ["nothing"])).toEqual([]);
  }
});
