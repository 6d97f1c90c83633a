import { type ReactNode, Suspense } from "react";

import { PAGE_PATIENCE, Working } from "../kit/Working";

/** A station whose script is fetched when it is first opened. */
export function later(station: ReactNode) {
  const loading = (
    <div className="p-6">
      <Working text="Loading …" patience={PAGE_PATIENCE} />
    </div>
  );
  return <Suspense fallback={loading}>{station}</Suspense>;
}
