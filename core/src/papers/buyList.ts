import type { Derived } from "../derive.ts";
import { needsOf } from "../stock/needs.ts";
import { missingByTurnout, stockLines } from "../stock/stock.ts";
import { count } from "../units/format.ts";
import { column, heading, type Paper, type PaperPart, table } from "./paper.ts";

/** What is needed, what is on the shelf, what is to be bought and what it costs; and what each turnout lacks. */
export function buyList(derived: Derived): Paper {
  const { record, schematic } = derived;
  const lines = stockLines(record, needsOf(derived)).filter(({ needed, have }) => needed > 0 || have > 0);
  const { currency } = record.railway;
  const columns = [
    ...[
      column("What", "text", 5),
      column("Needed", "figures"),
      column("On the shelf", "figures"),
      column("To buy", "figures"),
    ],
    ...[
      column("Unit", "text", 1),
      column(`Each ${currency}`, "figures", 2),
      column(`Sum ${currency}`, "figures"),
      column("From", "text", 2),
    ],
  ];
  const rows = lines.map(({ name, needed, have, toBuy, unit, price, isOwnPrice, sum, supplier }) => [
    ...[name, needed, have, toBuy, unit, `${isOwnPrice ? "" : "about "}${price.toFixed(2)}`],
    ...[sum.toFixed(2), supplier],
  ]);
  const total = lines.reduce((all, { sum }) => all + sum, 0);
  const parts: PaperPart[] = [table("buy list", columns, rows)];
  parts.push({
    kind: "text",
    text: `In all about ${total.toFixed(2)} ${currency}. Prices with "about" are rough ones, from memory.`,
  });
  const boxes = lines.filter(({ box, toBuy }) => box !== "" && toBuy > 0);
  if (boxes.length > 0)
    parts.push(
      heading("What comes in the box"),
      table(
        "boxes",
        [column("What"), column("In the box", "text", 6)],
        boxes.map(({ name, box }) => [name, box]),
      ),
    );
  const labels = new Map(schematic.threads.map(({ turnout, label }) => [turnout.id, label]));
  const lacks = [...missingByTurnout(derived, lines)].flatMap(([id, missing]) =>
    missing.length === 0
      ? []
      : [
          [
            labels.get(id) ?? "boards",
            missing
              .map(({ need, count: number }) =>
                need.unit === "m" ? `${number} m ${need.name}` : `${number} x ${need.name}`,
              )
              .join("; "),
          ],
        ],
  );
  if (lacks.length > 0) {
    const about = `${count(lacks.length, "place")} with something missing; the shelf goes to the turnouts in their order`;
    parts.push(
      heading("What each turnout lacks", about),
      table("lacks", [column("Turnout", "mono", 1), column("Lacks", "text", 8)], lacks),
    );
  }
  return { id: "buy-list", title: "Buy list", parts };
}
