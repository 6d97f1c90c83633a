import type { ReactNode } from "react";
import { Link } from "react-router";

import { Refusal } from "../api/client";
import { Callout } from "../kit/Callout";
import { Button, buttonLook } from "../kit/Button";

/** What failed, why, and what to do. */
export function Failure({
  error,
  retry,
  children,
}: {
  error: Error;
  retry?: () => void;
  children?: ReactNode;
}) {
  const again = !(error instanceof Refusal) || error.problem.status >= 500;
  const problems = error instanceof Refusal ? (error.problem.errors ?? []) : [];
  const jobs = problems.flatMap(({ job }) => job ?? []);
  return (
    <Callout role="alert" tone="wrong">
      <p className="font-bold">{error.message}</p>
      {jobs.map((job) => (
        <Link key={job} className={`${buttonLook()} mt-2 mr-2`} to={`/jobs/${job}`}>
          Open that job
        </Link>
      ))}
      {children}
      {again && retry && (
        <Button className="mt-2" onClick={retry}>
          Try again
        </Button>
      )}
    </Callout>
  );
}
