import { describe, expect, it } from "vitest";
import { EXHIBITS } from "../../testing/exhibits.ts";
import { valueText } from "../circuit/valueText.ts";
import { Derived } from "../derive.ts";
import { clustersOf } from "./clusters.ts";
import { sweptPiece } from "./hands.ts";
import { leversOf } from "./levers.ts";

describe.each(Object.keys(EXHIBITS))("%s", (name) => {
  const { circuitry } = new Derived(EXHIBITS[name]!());
  const swept = circuitry.pieces.map((piece, number) => ({ piece, ground: sweptPiece(circuitry, number, new Map()) }));

  it("has in each cluster the elements that a lever moves, with their values in its settings, and leaves out no lever", () => {
    for (const { ground } of swept) {
      const { members, states, wires, elementsOf } = ground;
      const { clusters } = clustersOf(ground);
      const joined = new Set(wires.flatMap(({ nodes }) => nodes));
      for (const [place, member] of members.entries()) {
        const isJoined = (terminal: string) => joined.has(`${member.device.id}:${terminal}`);
        for (const [index, { settings }] of leversOf(member, states[place]!.outputs.keys(), isJoined).entries()) {
          const lists = settings.map(({ set }) => elementsOf(place, set(states[place]!)));
          const moved = lists[0]!.flatMap(({ id }, at): [string, string[]][] => {
            const to = lists.map((list) => valueText(list[at]));
            return new Set(to).size > 1 ? [[id, to]] : [];
          });
          const own = clusters.flatMap(({ levers, elements }) =>
            levers.flatMap((lever) => (lever.key === `${place} ${index}` ? [{ lever, elements }] : [])),
          );
          for (const { lever } of own) expect(lever.moves).toEqual(new Map(moved));
          const reached = own.flatMap(({ elements }) => [...(elements.get(place) ?? [])]);
          expect(reached).toEqual(expect.arrayContaining(moved.map(([id]) => id)));
        }
      }
    }
  });

  it("has nothing that flows in a piece without anything that could drive it, however its levers stand", () => {
    for (const { piece, ground } of swept) {
      if (piece.canFlow) continue;
      const { members, states, elementsOf, solve } = ground;
      for (const [place, member] of members.entries()) {
        for (const { settings } of leversOf(member, states[place]!.outputs.keys(), () => true)) {
          for (const { set } of settings) {
            const stands = [...states];
            stands[place] = set(states[place]!);
            const point = solve(stands);
            for (const { id } of elementsOf(place, stands[place])) expect(Math.abs(point.amps(id)!)).toBe(0);
          }
        }
      }
    }
  });
});

it("is looked for in pieces that there are: contacts that nothing is wired to", () => {
  const dead = Object.values(EXHIBITS).filter((exhibit) =>
    new Derived(exhibit()).circuitry.pieces.some(({ canFlow }) => !canFlow),
  );
  expect(dead.length).toBeGreaterThan(3);
});
