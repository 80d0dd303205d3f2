import type { CSSProperties, ReactNode } from "react";

/** Sheets beside one another, or one below the other where the screen is narrow. */
export function Sheets({ columns, rows, children }: { columns?: string; rows?: string; children: ReactNode }) {
  const style = { "--columns": columns ?? "minmax(0,1fr)", "--rows": rows ?? "minmax(0,1fr)" } as CSSProperties;
  return (
    <div
      data-sheets
      style={style}
      className="grid min-h-0 grid-cols-(--columns) grid-rows-(--rows) gap-2.5 max-[699px]:flex max-[699px]:flex-col"
    >
      {children}
    </div>
  );
}
