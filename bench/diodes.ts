// Route buttons: three constructions of a large yard with their proofs, and its terminals ordered.
import { constructionsOf, type Firing, layBoard, prove, type Wish } from "@alderman/core";
import { line, measure } from "./measure.ts";

const ROADS = 24;

/** The ladder of a yard: each road throws all turnouts before its own one normal, and its own reverse. */
const LADDER = Array.from({ length: ROADS }, (_, road): Wish => {
  const before = Array.from({ length: road }, (_each, index) => `Y${index + 1}N`);
  return { button: `Road ${road + 1}`, coils: road === ROADS - 1 ? before : [...before, `Y${road + 1}R`] };
});

const FIRING: Firing = {
  ...{ farads: 47_000e-6, volts: 24, seriesOhms: 0.2, diode: { is: 1e-9, n: 1.8, rs: 0.04 }, surgeAmps: 30 },
  coil: { ohms: 4, henries: 2e-3, wireOhms: 0.3, moveAmps: 1.2, leastJoules: 0.15 },
};

export function benchDiodes(): void {
  const coils = new Set(LADDER.flatMap((wish) => wish.coils)).size;
  const all = measure(5, () => constructionsOf(LADDER).map((each) => prove(each, LADDER, FIRING)));
  line(`${ROADS} roads on ${coils} coils, three constructions with their proofs`, `${all.toFixed(0)} ms`);
  const [fewest, , cascaded] = constructionsOf(LADDER);
  const laid = measure(5, () => {
    for (const construction of [fewest, cascaded]) {
      if (!construction) continue;
      const work = layBoard(construction);
      while (!work.next().done);
    }
  });
  line("The boards of the fewest diodes and of the cascade, terminals ordered", `${laid.toFixed(0)} ms`);
}
