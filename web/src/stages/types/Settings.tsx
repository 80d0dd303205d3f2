import type { DeviceType } from "@alderman/core";
import type { ReactNode } from "react";
import { DataTable } from "../../kit/DataTable.tsx";

type Setting = NonNullable<DeviceType["settings"]>[number];

/** What is set in a device itself. */
export function Settings({
  title,
  settings,
  action,
}: {
  title: string;
  settings: readonly Setting[];
  /** What can be done with one. */
  action?: (setting: Setting) => ReactNode;
}) {
  if (settings.length === 0) return null;
  return (
    <>
      <h3 className="mt-4 mb-1">{title}</h3>
      <DataTable
        flowing
        label={title}
        items={settings}
        idOf={({ name }) => name}
        columns={[
          { id: "name", title: "Name", wraps: true, cell: ({ name }) => <b className="font-semibold">{name}</b> },
          { id: "about", title: "What it does", wraps: true, cell: ({ about }) => about },
          { id: "range", title: "Range", wraps: true, cell: ({ range }) => range },
          { id: "factory", title: "Factory setting", wraps: true, cell: ({ factory }) => factory },
          { id: "number", title: "Kept in", wraps: true, cell: ({ number }) => number ?? "" },
          ...(action ? [{ id: "action", title: "Action", untitled: true, width: 80, cell: action }] : []),
        ]}
      />
    </>
  );
}
