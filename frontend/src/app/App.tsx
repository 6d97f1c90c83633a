import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";

import { useMachines } from "../api/questions";
import { Failed } from "../kit/Notice";
import { LatheStation } from "../stations/lathe/LatheStation";
import { Shell } from "./Shell";

const MachinesStation = lazy(() => import("../stations/machines/MachinesStation"));

export function App() {
  return (
    <Routes>
      <Route element={<Shell />}>
        <Route index element={<Start />} />
        <Route path="lathe/:machine" element={<LatheStation />} />
        <Route
          path="machines"
          element={
            <Suspense fallback={null}>
              <MachinesStation />
            </Suspense>
          }
        />
        <Route path="*" element={<Start />} />
      </Route>
    </Routes>
  );
}

/** The first lathe, or the machines where there is none yet. */
function Start() {
  const machines = useMachines();
  if (machines.error) {
    return (
      <div className="p-6">
        <Failed error={machines.error} retry={() => void machines.refetch()} />
      </div>
    );
  }
  if (!machines.data) return null;
  const lathe = machines.data.find((m) => m.kind === "lathe");
  return <Navigate replace to={lathe ? `/lathe/${lathe.slug}` : "/machines"} />;
}
