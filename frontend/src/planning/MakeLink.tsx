import { Link } from "react-router";

import { buttonLook } from "../kit/Button";

/** Leads to the jobs, with the ask for a wheel already typed. */
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
  const ask = `make ${teeth}${machine ? ` for ${machine}` : ""}`;
  return (
    <Link
      className={
        quiet
          ? "inline-flex min-h-11 items-center whitespace-nowrap text-blue underline underline-offset-4"
          : buttonLook()
      }
      to={`/jobs?${new URLSearchParams({ ask })}`}
    >
      {text}
    </Link>
  );
}
