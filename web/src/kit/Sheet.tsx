import type { ReactNode } from "react";

/** A drawn sheet with its heading line. */
export function Sheet({
  title,
  about,
  actions,
  children,
  className = "",
}: {
  title: ReactNode;
  about?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
  className?: string;
}) {
  return (
    <section className={`flex min-h-0 min-w-0 flex-col rounded-[2px] border border-rule bg-sheet ${className}`}>
      <header className="flex min-h-9 flex-none items-center gap-2.5 border-b border-rule px-3 py-0.75 max-sm:flex-wrap">
        <h2>{title}</h2>
        {about && <span className="min-w-0 flex-1 truncate text-small text-ink-2">{about}</span>}
        {!about && <span className="flex-1" />}
        {actions}
      </header>
      {children}
    </section>
  );
}

/** The part of a sheet that scrolls. @param still it holds nothing that takes the focus, so that it takes it itself to be scrolled by keys */
export function SheetBody({
  label,
  still = false,
  children,
  className = "",
}: {
  label?: string;
  still?: boolean;
  children: ReactNode;
  className?: string;
}) {
  return (
    <section
      {...(label ? { "aria-label": label } : {})}
      {...(still ? { tabIndex: 0 } : {})}
      className={`min-h-0 flex-1 overflow-auto focus-visible:-outline-offset-3 ${className}`}
    >
      {children}
    </section>
  );
}
