import type { Wire } from "@alderman/core";
import type { DataColumn } from "../../../kit/BodyRow.tsx";
import type { OpenThing } from "./thing.ts";

/** A column with the wire of a row, which opens its card; "spare" where there is none. */
export function wireColumn<T extends { wire: Wire | null }>(open: OpenThing): DataColumn<T> {
  return {
    ...{ id: "wire", title: "Wire", width: 62 },
    cell: ({ wire }) =>
      wire ? (
        <button
          type="button"
          className="cursor-pointer font-mono font-bold underline"
          onClick={() => open({ kind: "wire", id: wire.id })}
        >
          {wire.label}
        </button>
      ) : (
        <span className="text-ink-2">spare</span>
      ),
  };
}
