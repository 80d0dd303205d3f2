// Routes, reversing sections and signals of lines: against a general-purpose graph library, against trying everything, and
// against worked values of the trade.
import fc from "fast-check";
import Graph from "graphology";
import { allSimplePaths } from "graphology-simple-path";
import { describe, expect, it } from "vitest";
import { calculatorCalled } from "../src/calculators/registry.ts";
import { reversing } from "../src/line/reversing.ts";
import { type Route, routesIn } from "../src/line/routes.ts";
import { LEGS, type Line, type Port, portOf, turnoutPort } from "../src/line/topology.ts";
import { RecordError } from "../src/record/problems.ts";

/** Random lines: some ends and turnouts, ports joined two by two until none are left, or not quite. */
function randomLine(mostTurnouts: number, mostEnds: number): fc.Arbitrary<Line> {
  return fc
    .tuple(fc.integer({ min: 0, max: mostTurnouts }), fc.integer({ min: 0, max: mostEnds }), fc.nat(4))
    .chain(([turnouts, ends, loose]) => {
      const ids = Array.from({ length: turnouts }, (_, index) => `Y${index + 1}`);
      const names = Array.from({ length: ends }, (_, index) => `e${index + 1}`);
      const ports = [...names, ...ids.flatMap((id) => LEGS.map((leg) => portOf(id, leg)))];
      return fc.shuffledSubarray(ports, { minLength: ports.length, maxLength: ports.length }).map((order): Line => {
        const pairs = Math.max(0, Math.floor(order.length / 2) - loose);
        const links = Array.from({ length: pairs }, (_, n): [Port, Port] => [order[2 * n]!, order[2 * n + 1]!]);
        return { turnouts: ids.map((id) => ({ id })), ends: names, links };
      });
    });
}

const nodeOf = (port: Port) => turnoutPort(port)?.id ?? port;
const textOf = ({ from, to, settings }: Route) =>
  [
    [from, to].sort().join("-"),
    ...Object.entries(settings)
      .map(([id, lie]) => `${id} ${lie}`)
      .sort(),
  ].join(" ");

/** Routes by the library's list of all simple paths, of which those stay that no turnout forbids. */
function routesByLibrary(line: Line): string[] {
  const graph = new Graph({ type: "undirected" });
  // a link is a node of its own, since two turnouts may have several between them
  for (const { id } of line.turnouts) graph.addNode(id);
  for (const end of line.ends) graph.addNode(end);
  for (const [index, link] of line.links.entries()) {
    const [a, b] = link.map(nodeOf) as [string, string];
    // a turnout is not passed twice, so a link to itself leads nowhere
    if (a === b) continue;
    graph.addNode(`link ${index}`);
    for (const node of [a, b]) graph.addEdge(`link ${index}`, node);
  }
  const found: string[] = [];
  for (const [index, from] of line.ends.entries()) {
    for (const to of line.ends.slice(index + 1)) {
      for (const path of allSimplePaths(graph, from, to)) {
        const links = path.flatMap((node) =>
          node.startsWith("link ") ? [line.links[Number(node.slice(5))] as readonly [Port, Port]] : [],
        );
        const settings: Route["settings"] = {};
        let at: string = from;
        let isRoute = true;
        let entered: Port | null = null;
        for (const [a, b] of links) {
          const [leaving, coming] = nodeOf(a) === at ? [a, b] : [b, a];
          if (entered !== null) {
            const [first, second] = [turnoutPort(entered)!.leg, turnoutPort(leaving)?.leg ?? "toe"];
            if ((first === "toe") === (second === "toe")) isRoute = false;
            const lie = first === "toe" ? second : first;
            if (lie !== "toe") settings[at] = lie;
          }
          entered = turnoutPort(coming) ? coming : null;
          at = nodeOf(coming);
          // an end that is amid the path is no way on
          if (entered === null && at !== to) isRoute = false;
        }
        if (isRoute) found.push(textOf({ from, to, settings }));
      }
    }
  }
  return found.sort();
}

/** Whether rails can be told left and right all over a line with these links: found by trying every orientation of its turnouts. */
function isSound(line: Line, links: Line["links"]): boolean {
  const ids = line.turnouts.map(({ id }) => id);
  for (let turned = 0; turned < 2 ** ids.length; turned++) {
    const sideOf = (id: string) => (turned >> ids.indexOf(id)) & 1;
    const holds = links.every(([a, b]) => {
      const [from, to] = [turnoutPort(a), turnoutPort(b)];
      if (!from || !to) return true;
      const swaps = (from.leg === "toe") === (to.leg === "toe");
      return (sideOf(from.id) !== sideOf(to.id)) === swaps;
    });
    if (holds) return true;
  }
  return false;
}

/** Fewest links to leave out, by trying all sets of one, of two and so on. */
function fewestCuts(line: Line): number {
  for (let size = 0; ; size++) if (withOut(size, 0, [])) return size;
  function withOut(left: number, from: number, out: number[]): boolean {
    if (left === 0)
      return isSound(
        line,
        line.links.filter((_, index) => !out.includes(index)),
      );
    for (let next = from; next < line.links.length; next++)
      if (withOut(left - 1, next + 1, [...out, next])) return true;
    return false;
  }
}

describe("routes", () => {
  it("are all simple ways that no turnout forbids, as a graph library lists them", () => {
    fc.assert(
      fc.property(randomLine(7, 5), (line) => {
        const own = [...routesIn(line)].map(textOf).sort();
        expect(own).toEqual(routesByLibrary(line));
        expect(new Set(own).size).toBe(own.length);
      }),
      { numRuns: 300 },
    );
  });

  it("give up after so many turnouts, and say that there may be more", () => {
    fc.assert(
      fc.property(randomLine(7, 5), fc.nat(20), (line, most) => {
        const all = [...routesIn(line)].map(textOf);
        const some = routesIn(line, most);
        const found: string[] = [];
        let next = some.next();
        for (; !next.done; next = some.next()) found.push(textOf(next.value));
        expect(all).toEqual(expect.arrayContaining(found));
        if (next.value) expect(found).toEqual(all);
      }),
    );
  });

  // trade check values: a ladder of n roads has n routes from its lead, and one more turnout for each road
  it.each([4, 6, 24])("of a ladder of %i roads lead to each road", (roads) => {
    const turnouts = Array.from({ length: roads - 1 }, (_, index) => ({ id: `Y${index + 1}` }));
    const links: [Port, Port][] = [["lead", "Y1.toe"]];
    for (const [index, { id }] of turnouts.entries()) {
      links.push([`${id}.normal`, `road${index + 1}`]);
      links.push([`${id}.reverse`, index + 2 < roads ? `Y${index + 2}.toe` : `road${roads}`]);
    }
    const ends = ["lead", ...Array.from({ length: roads }, (_, index) => `road${index + 1}`)];
    const routes = [...routesIn({ turnouts, ends, links })];
    expect(routes).toHaveLength(roads);
    expect(routes.at(-1)).toMatchObject({ from: "lead", to: `road${roads}` });
    expect(Object.values(routes.at(-1)!.settings)).toEqual(turnouts.map(() => "reverse"));
  });
});

describe("reversing sections", () => {
  it("are found, and cut by the fewest links, as trying everything finds them", () => {
    fc.assert(
      fc.property(randomLine(6, 3), (line) => {
        const { conflict, cut, loop } = reversing(line);
        expect(conflict).toBe(!isSound(line, line.links));
        const left = line.links.filter((link) => !cut.some(([a, b]) => a === link[0] && b === link[1]));
        expect(left).toHaveLength(line.links.length - cut.length);
        expect(isSound(line, left)).toBe(true);
        expect(cut).toHaveLength(fewestCuts(line));
        expect(isSound(line, loop)).toBe(!conflict);
      }),
      { numRuns: 150 },
    );
  });

  it("are a balloon loop and a wye, and no passing loop and no crossover", () => {
    const balloon = {
      turnouts: [{ id: "B1" }],
      ends: ["main"],
      links: [
        ["main", "B1.toe"],
        ["B1.normal", "B1.reverse"],
      ],
    };
    expect(reversing(balloon as unknown as Line).cut).toEqual([["B1.normal", "B1.reverse"]]);
    const three = [{ id: "A" }, { id: "B" }, { id: "C" }];
    const wye = [
      ["A.normal", "B.reverse"],
      ["B.normal", "C.reverse"],
      ["C.normal", "A.reverse"],
    ];
    expect(reversing({ turnouts: three, ends: [], links: wye } as unknown as Line).cut).toHaveLength(1);
    const passing = [
      ["w", "A.toe"],
      ["A.normal", "B.normal"],
      ["A.reverse", "B.reverse"],
      ["B.toe", "e"],
    ];
    // leg to leg twice keeps left and right
    expect(reversing({ turnouts: three.slice(0, 2), ends: ["w", "e"], links: passing } as unknown as Line)).toEqual({
      ...{ conflict: false, isSmallest: true, cut: [], loop: [] },
    });
  });

  it("are cut quickly where there are many of them", () => {
    const loops = Array.from({ length: 12 }, (_, index) => `B${index}`);
    const links = loops.flatMap((id, index): [Port, Port][] => [
      [`${id}.normal`, `${id}.reverse`],
      [`${id}.toe`, index % 2 === 0 ? `${loops[index + 1]}.toe` : `e${index}`],
    ]);
    const line = { turnouts: loops.map((id) => ({ id })), ends: loops.map((_, index) => `e${index}`), links };
    // the toe of each second one is taken already
    const once = links.filter(([, to], index) => links.findIndex((link) => link.includes(to)) === index);
    expect(reversing({ ...line, links: once }).cut).toHaveLength(12);
  });
});

describe("calculators of the line", () => {
  const run = (name: string, input: unknown) => calculatorCalled(name)!.run(input);
  const fault = (name: string, input: unknown) => {
    try {
      run(name, input);
    } catch (error) {
      if (error instanceof RecordError) return error.problems[0]!;
      throw error;
    }
    throw new Error("Nothing was wrong.");
  };

  it("say what is wrong with a line, and where", () => {
    const line = { turnouts: [{ id: "Y1", hand: "left" }], ends: ["a"], links: [["a", "Y1.toe"]] };
    expect(run("routes", line)).toEqual({ routes: [] });
    expect(fault("routes", { ...line, links: [["a", "Y9.toe"]] })).toMatchObject({
      path: ["links", 0, 1],
      message: "There is no turnout leg and no end called Y9.toe.",
    });
    expect(fault("reversing", { ...line, links: [...line.links, ["a", "Y1.normal"]] }).path).toEqual(["links", 1, 0]);
    expect(fault("routes", { ...line, ends: ["a", "a"] }).path).toEqual(["ends", 1]);
    expect(fault("routes", { ...line, turnouts: [...line.turnouts, { id: "Y1" }] }).path).toEqual([
      "turnouts",
      1,
      "id",
    ]);
  });

  // control.md's worked values: a train in 2; in 3; manual red at 2
  it.each([
    [
      ["", "", "occupied", ""],
      ["yellow", "red", "green", "green"],
    ],
    [
      ["", "", "", "occupied"],
      ["green", "yellow", "red", "green"],
    ],
    [
      ["", "", "held", ""],
      ["green", "yellow", "red", "green"],
    ],
  ])("show along %j what common practice shows", (states, aspects) => {
    const blocks = states.map((state, index) => ({
      ...{ id: String(index), occupied: state === "occupied", held: state === "held" },
    }));
    const shown = run("signal-aspects", { blocks, loop: false, beyond: "clear" });
    expect(Object.values(shown.aspects as object)).toEqual(aspects);
  });

  it("go round a loop, and look beyond the last block", () => {
    const blocks = ["a", "b", "c"].map((id) => ({ id, occupied: id === "a", held: false }));
    expect(run("signal-aspects", { blocks, loop: true, beyond: "clear" })).toEqual({
      aspects: { a: "green", b: "yellow", c: "red" },
    });
    const clear = blocks.map((block) => ({ ...block, occupied: false }));
    expect(run("signal-aspects", { blocks: clear, loop: false, beyond: "occupied" })).toEqual({
      aspects: { a: "green", b: "yellow", c: "red" },
    });
    expect(fault("signal-aspects", { blocks: [blocks[0], blocks[0]], loop: true, beyond: "clear" }).path).toEqual([
      ...["blocks", 1, "id"],
    ]);
  });
});
