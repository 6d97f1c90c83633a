import { Navigate, useLocation } from "react-router";

import { useMachines } from "../api/machines";
import { Failure } from "../app/Notice";

/** What one comes to: Today, or the machines where there is none yet. An ask, and the word lathe alone, lead to the
 * first lathe; what was asked before the lathes were known goes along. */
export function Start() {
  const machines = useMachines();
  const { pathname, search } = useLocation();
  if (machines.error) {
    return (
      <div className="p-6">
        <Failure error={machines.error} retry={() => void machines.refetch()} />
      </div>
    );
  }
  if (!machines.data) return null;
  if (machines.data.length === 0) return <Navigate replace to="/machines" />;
  const lathe = machines.data.find((m) => m.kind === "lathe" && !m.archived);
  const planning = pathname.startsWith("/lathe") || new URLSearchParams(search).has("ask");
  if (!planning) return <Navigate replace to="/today" />;
  return <Navigate replace to={lathe ? `/lathe/${lathe.slug}${search}` : "/machines"} />;
}
