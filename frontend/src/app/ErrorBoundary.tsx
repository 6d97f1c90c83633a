import type { ReactNode } from "react";
import { ErrorBoundary as Boundary, type FallbackProps } from "react-error-boundary";

import { Callout } from "../kit/Callout";
import { Button, buttonLook } from "../kit/Button";

/** A fault in one station is told there, with a way on; the rest of the page stays. `place`: another one begins anew. */
export function ErrorBoundary({ place, children }: { place: string; children: ReactNode }) {
  return (
    <Boundary FallbackComponent={Fault} resetKeys={[place]}>
      {children}
    </Boundary>
  );
}

function Fault({ error, resetErrorBoundary }: FallbackProps) {
  const message = error instanceof Error ? error.message : String(error);
  const lost = isLostScript(message);
  return (
    <Callout role="alert" tone="wrong" className="m-6 max-w-2xl">
      <h1 className="text-heading font-bold">
        {lost ? "A part of this page could not be loaded." : "This page has a fault."}
      </h1>
      <p className="mt-1">
        {lost
          ? "The server does not answer, or Valleywind was replaced by a newer one. Load the page again."
          : "What is saved is safe. Try again, or go to another station."}
      </p>
      {!lost && <p className="mt-1 font-mono text-fine break-words">{message}</p>}
      <div className="mt-3 flex gap-2">
        {lost ? (
          <Button look="main" onClick={() => location.reload()}>
            Load again
          </Button>
        ) : (
          <Button look="main" onClick={resetErrorBoundary}>
            Try again
          </Button>
        )}
        <a className={buttonLook()} href="/machines">
          Machines
        </a>
      </div>
    </Callout>
  );
}

/** Whether a station's script did not come: browsers word it each in their way. */
function isLostScript(message: string): boolean {
  return /dynamically imported module|Importing a module script|error loading dynamically/i.test(
    message,
  );
}
