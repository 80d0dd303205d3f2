// @vitest-environment happy-dom
// A matrix as it is drawn: each link at its crossing, and nothing that hangs in the air.
import { constructionsOf, type Wish } from "@alderman/core";
import { render } from "@testing-library/react";
import fc from "fast-check";
import { expect, it, vi } from "vitest";
import { MatrixDrawing } from "./MatrixDrawing.tsx";

const wishes = fc
  .array(fc.uniqueArray(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 5 })
  .map((buttons) =>
    buttons.map((coils, index): Wish => ({ button: `Road ${index}`, coils: coils.map((coil) => `Y${coil}`) })),
  );

it("joins each row to each column that it feeds, within the length of both, whatever the table and the construction", () => {
  fc.assert(
    fc.property(wishes, (table) => {
      for (const construction of constructionsOf(table)) {
        const { container, unmount } = render(
          <MatrixDrawing wishes={table} construction={construction} pressed={null} live={new Map()} press={vi.fn()} />,
        );
        const joins = [...container.querySelectorAll("[data-join]")];
        expect(joins).toHaveLength(construction.joins.length);
        expect(joins.filter((each) => each.getAttribute("data-join") === "diode")).toHaveLength(construction.diodes);
        // columns are the lines that go down
        const columns = [...container.querySelectorAll("svg > line")]
          .map((line) => ["x1", "x2", "y1", "y2"].map((name) => Number(line.getAttribute(name))) as number[])
          .filter(([x1, x2]) => x1 === x2);
        for (const join of joins) {
          const end = join.querySelector("line")!;
          const [x, y] = ["x2", "y2"].map((name) => Number(end.getAttribute(name))) as [number, number];
          expect(columns.some(([at, , top, foot]) => at === x && top! <= y && y <= foot!)).toBe(true);
        }
        unmount();
      }
    }),
    { numRuns: 40 },
  );
});

it("has a button to press for each road, and marks the coils that are wanted and those that are not", () => {
  const table = [
    { button: "Road 1", coils: ["Y1R"] },
    { button: "Road 2", coils: ["Y1N"] },
  ];
  const live = new Map([
    ["Road 1", "wanted"],
    ["Y1R", "wanted"],
    ["Y1N", "astray"],
  ] as const);
  const { getAllByRole, container } = render(
    <MatrixDrawing
      wishes={table}
      construction={constructionsOf(table)[0]!}
      pressed="Road 1"
      live={live}
      press={vi.fn()}
    />,
  );
  expect(getAllByRole("radio").map((each) => [each.textContent, each.getAttribute("aria-checked")])).toEqual([
    ["Road 1", "true"],
    ["Road 2", "false"],
  ]);
  const coil = (name: string) => container.querySelector(`[data-coil="${name}"]`)?.getAttribute("data-live");
  expect([coil("Y1R"), coil("Y1N")]).toEqual(["wanted", "astray"]);
});
