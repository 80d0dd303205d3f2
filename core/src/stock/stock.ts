import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Stock } from "../record/made.ts";
import type { Need, Plan } from "./needs.ts";

/** A need beside what is on the shelf. */
export interface StockLine extends Need {
  /** What is on the shelf now. */
  have: number;
  /** What is to be bought; whole pieces, metres to the centimetre. */
  toBuy: number;
  /** What that costs. */
  sum: number;
  /** The price is the owner's, not the rough one. */
  isOwnPrice: boolean;
  supplier: string;
}

/** What is needed beside what is on the shelf; what is on the shelf and not needed comes last. */
export function stockLines({ stocks }: RailwayRecord, needs: readonly Need[]): StockLine[] {
  const shelf = new Map(stocks.map((stock) => [stock.thing, stock]));
  const lines = needs.map((need) => lineOf(need, shelf.get(need.thing)));
  const known = new Set(needs.map(({ thing }) => thing));
  const others = stocks.filter(({ thing }) => !known.has(thing));
  return [...lines, ...others.map((stock) => lineOf(unneeded(stock), stock))];
}

function lineOf(need: Need, stock: Stock | undefined): StockLine {
  const have = onShelf(need, stock);
  const toBuy = Math.max(0, round(need.needed - have));
  const price = stock?.price ?? need.price;
  const isOwnPrice = stock !== undefined && stock.price !== null;
  return { ...need, have, toBuy, price, isOwnPrice, sum: toBuy * price, supplier: stock?.supplier ?? "" };
}

/** What is on the shelf now: what was there when it was counted, less what was built in since. */
function onShelf({ used }: Need, stock: Stock | undefined): number {
  if (!stock) return 0;
  const since = used.reduce((sum, { at, count }) => (at > stock.at ? sum + count : sum), 0);
  return Math.max(0, round(stock.have - since));
}

/** Sums of lengths, to the centimetre. */
function round(value: number): number {
  return Math.round(value * 100) / 100;
}

function unneeded({ thing }: Stock): Need {
  const [kind, ...rest] = thing.split(":");
  const unit = kind === "wire" || kind === "cable" ? "m" : "pieces";
  return { thing, name: rest.join(", ") || thing, unit, box: "", price: 0, needed: 0, byTurnout: new Map(), used: [] };
}

/** What a turnout takes of something that the shelf does not hold for it. */
export interface Missing {
  need: Need;
  count: number;
}

/**
 * What each turnout lacks when what is on the shelf goes to the turnouts in the owner's order: what belongs to none, as
 * supplies and the wires between boards, comes before the first.
 * @returns by leader, in the owner's order; "" first, for what belongs to no turnout
 */
export function missingByTurnout(
  { schematic }: Pick<Plan, "schematic">,
  lines: readonly StockLine[],
): Map<string, Missing[]> {
  const left = new Map(lines.map(({ thing, have }) => [thing, have]));
  const missing = new Map<string, Missing[]>();
  for (const turnoutId of ["", ...schematic.threads.map(({ turnout }) => turnout.id)]) {
    const lacks: Missing[] = [];
    for (const need of lines) {
      const wanted = need.byTurnout.get(turnoutId) ?? 0;
      if (wanted === 0) continue;
      const have = left.get(need.thing) ?? 0;
      left.set(need.thing, Math.max(0, have - wanted));
      const count = round(wanted - have);
      if (count > 0) lacks.push({ need, count });
    }
    missing.set(turnoutId, lacks);
  }
  return missing;
}

/** What a person can say of a thing in the stock. */
export type StockFields = Pick<Stock, "have" | "price" | "supplier">;

/**
 * Writes down what is on the shelf of a thing, what it costs, and from whom.
 * @param line the thing with what is said of it so far
 * @param at when it was counted, ISO 8601
 */
export function setStock(
  record: RailwayRecord,
  line: StockLine,
  fields: Partial<StockFields>,
  at: string,
): EditGroup | null {
  const { thing, have, isOwnPrice, price, supplier } = line;
  const before: StockFields = { have, price: isOwnPrice ? price : null, supplier };
  const now = { ...before, ...fields };
  if (now.have === before.have && now.price === before.price && now.supplier === before.supplier) return null;
  const draft = new Draft(record);
  const known = record.stocks.find((stock) => stock.thing === thing);
  if (now.have === 0 && now.price === null && now.supplier === "") {
    if (known) draft.remove("stock", known.id);
  } else draft.put("stock", { id: known?.id ?? freshId(record, "stock", thing), thing, ...now, at });
  return draft.edits.length === 0 ? null : draft.group(`On the shelf: ${line.name}`.slice(0, 200));
}

/** All that is to be bought was bought: it is on the shelf. @param at when, ISO 8601 */
export function boughtAll(record: RailwayRecord, lines: readonly StockLine[], at: string): EditGroup | null {
  const draft = new Draft(record);
  for (const { thing, toBuy, have, isOwnPrice, price, supplier } of lines) {
    if (toBuy === 0) continue;
    const known = record.stocks.find((stock) => stock.thing === thing);
    const id = known?.id ?? freshId(draft.record, "stock", thing);
    draft.put("stock", { id, thing, have: round(have + toBuy), price: isOwnPrice ? price : null, supplier, at });
  }
  return draft.edits.length === 0 ? null : draft.group("Bought what was missing");
}
