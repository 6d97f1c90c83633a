import type { ReactNode } from "react";
import { Link } from "react-router";

import { buttonLook } from "../kit/Button";

/** Starts a job for a wheel that was asked for, and goes there. What the jobs refuse is told among them, with the ask. */
export function StartJob({
  of,
  className = buttonLook(),
  children,
}: {
  /** As the jobs' own form has it; what is empty is left out. */
  of: { ask: string; family?: string; mill?: string; train?: string };
  className?: string;
  children: ReactNode;
}) {
  const query = Object.entries(of).filter(([, value]) => value);
  return (
    // What is in the address alone starts nothing: it could come from any page.
    <Link className={className} to={`/jobs?${new URLSearchParams(query)}`} state={{ start: true }}>
      {children}
    </Link>
  );
}

/** The same for a count of a machine's wheels. */
export function MakeLink({
  teeth,
  machine,
  text = "Start a job",
  quiet,
}: {
  teeth: number;
  machine?: string | undefined;
  text?: string;
  quiet?: boolean;
}) {
  return (
    <StartJob
      of={{ ask: `make ${teeth}${machine ? ` for ${machine}` : ""}` }}
      className={
        quiet
          ? "inline-flex min-h-11 items-center whitespace-nowrap text-blue underline underline-offset-4"
          : buttonLook()
      }
    >
      {text}
    </StartJob>
  );
}
