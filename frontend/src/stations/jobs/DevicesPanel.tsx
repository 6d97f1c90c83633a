import { Link } from "react-router";

import { type Device, useDevices, useGive } from "../../api/devices";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { DeviceLine } from "./DeviceLine";

/** What is connected, beside a job and its session: a pedal, an encoder or a camera may advance it. */
export function DevicesPanel({ job, cutting }: { job: number; cutting: boolean }) {
  const { units } = usePreferences();
  const devices = useDevices(units);
  if (!devices.data?.length) return null;
  return (
    <section aria-label="Devices" className="mt-3 border-t border-line pt-2">
      <h2 className="font-bold">
        <Link
          className="inline-flex min-h-11 items-center underline underline-offset-4"
          to="/jobs/devices"
        >
          Devices
        </Link>
      </h2>
      <ul>
        {devices.data.map((device) => (
          <li key={device.number} className="border-t border-line py-1.5 text-lesser">
            <Here device={device} job={job} cutting={cutting} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Here({ device, job, cutting }: { device: Device; job: number; cutting: boolean }) {
  const give = useGive();
  const mine = device.job === job;
  return (
    <DeviceLine device={device} give={give}>
      {cutting && (
        <Button
          aria-pressed={mine}
          onClick={() => give.mutate({ number: device.number, job: mine ? null : job })}
        >
          {mine ? "It advances this" : "Let it advance this"}
        </Button>
      )}
    </DeviceLine>
  );
}
