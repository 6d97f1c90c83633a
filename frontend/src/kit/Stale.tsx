import type { ReactNode } from "react";

/** What is shown of an older answer: dimmed and marked, and nothing in it can be used. */
export function Stale({
  old,
  busy,
  note,
  className = "",
  children,
}: {
  old: boolean;
  busy: boolean;
  note?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <div aria-busy={busy} inert={old} className={`${className} ${old ? "relative" : ""}`}>
      <div className={old ? "h-full opacity-45" : "h-full"}>{children}</div>
      {old && note && (
        <p className="absolute top-2 right-2 z-10 rounded-sm border border-line bg-paper px-2 py-1 text-fine font-bold">
          {busy ? "Working …" : "As it was before"}
        </p>
      )}
    </div>
  );
}
