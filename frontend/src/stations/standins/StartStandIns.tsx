import { useState } from "react";

import { type On, type Sort, startStandIn } from "../../api/standIns";
import { Failure } from "../../app/Notice";
import { Button } from "../../kit/Button";

const OFFERED: [string, Sort, On?][] = [
  ["Crank", "encoder", "crank"],
  ["Table", "encoder", "work"],
  ["Pedal", "pedal"],
  ["Caliper", "caliper"],
  ["Indicator", "indicator"],
  ["Camera", "camera"],
];

/** Play a device in this page. `open`: a port for devices is open. */
export function StartStandIns({ open }: { open: boolean }) {
  const [error, setError] = useState<Error>();
  const start = (sort: Sort, on?: On) => {
    setError(undefined);
    startStandIn(sort, on).catch((failed: unknown) => {
      if (failed instanceof Error) setError(failed);
    });
  };
  return (
    <section aria-labelledby="stand-ins" className="mt-8">
      <h2 id="stand-ins" className="text-heading font-bold">
        Stand-ins
      </h2>
      <p>
        Play a device here, without any hardware. Its lines go over the port as those of a device
        do.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {OFFERED.map(([name, sort, on]) => (
          <Button key={name} disabled={!open} onClick={() => start(sort, on)}>
            {name}
          </Button>
        ))}
      </div>
      {error && <Failure error={error} />}
    </section>
  );
}
