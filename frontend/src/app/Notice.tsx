import type { ReactNode } from "react";

import { Refusal } from "../api/client";
import { Callout } from "../kit/Callout";
import { Button } from "../kit/Button";

/** What failed, why, and what to do. */
export function Failed({
  error,
  retry,
  children,
}: {
  error: Error;
  retry?: () => void;
  children?: ReactNode;
}) {
  const again = !(error instanceof Refusal) || error.problem.status >= 500;
  return (
    <Callout role="alert" tone="wrong">
      <p className="font-bold">{error.message}</p>
      {children}
      {again && retry && (
        <Button className="mt-2" onClick={retry}>
          Try again
        </Button>
      )}
    </Callout>
  );
}
