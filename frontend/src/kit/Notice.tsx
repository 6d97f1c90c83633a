import type { ReactNode } from "react";

import { Refusal } from "../api/client";
import { Button } from "./Button";

/** What failed, why, and what to do. */
export function Failed({ error, retry, children }: { error: Error; retry?: () => void; children?: ReactNode }) {
  const offline = !(error instanceof Refusal);
  return (
    <div role="alert" className="border-l-4 border-oxide bg-oxide-bg px-4 py-3">
      <p className="font-bold">{offline ? "The Valleywind server does not answer." : error.message}</p>
      {offline && <p>Is it still running where you started it? What you typed is kept here.</p>}
      {children}
      {offline && retry && (
        <Button className="mt-2" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}
