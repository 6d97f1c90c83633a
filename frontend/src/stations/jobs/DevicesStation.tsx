import { type Device, useDeviceLine, useDevices, useGive } from "../../api/devices";
import { type JobLine, useJobs } from "../../api/jobs";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { DeviceLine } from "./DeviceLine";

/** What is connected at the machine, what it tells, and which session it advances. */
export default function DevicesStation() {
  const { units } = usePreferences();
  const devices = useDevices(units, true);
  const line = useDeviceLine();
  const jobs = useJobs();
  const sessions = jobs.data?.filter((job) => job.cutting && !job.done) ?? [];
  return (
    <div className="h-full overflow-y-auto p-6 phone:p-3">
      <div className="mx-auto max-w-3xl">
        <h1 className="text-title font-bold">Devices</h1>
        <p className="mt-1">
          All are optional. A figure from a caliper goes into the field that is open.
        </p>
        {devices.error && <Failed error={devices.error} retry={() => void devices.refetch()} />}
        {devices.data?.length === 0 && <p className="mt-4 font-bold">Nothing is connected.</p>}
        <ul className="mt-4 flex flex-col gap-2">
          {devices.data?.map((device) => (
            <li key={device.number} className="border border-line bg-paper px-4 py-3">
              <Connected device={device} sessions={sessions} />
            </li>
          ))}
        </ul>
        {line.data && (
          <Callout tone="hint" as="p" small className="mt-4">
            {line.data.hint}
          </Callout>
        )}
        {line.error && <Failed error={line.error} retry={() => void line.refetch()} />}
      </div>
    </div>
  );
}

function Connected({ device, sessions }: { device: Device; sessions: JobLine[] }) {
  const give = useGive();
  // Where it stopped by itself it is set anew from where the work stands now.
  const again = device.job !== null && device.said !== "" && device.said !== "Recorded.";
  return (
    <DeviceLine device={device} give={give}>
      <span className="flex w-72 items-end gap-2 phone:w-full">
        <Choice
          label="Advances"
          value={device.job === null ? "" : String(device.job)}
          options={[["", "no session"], ...sessions.map(spelled)]}
          change={(job) => give.mutate({ number: device.number, job: job ? Number(job) : null })}
        />
        {again && (
          <Button onClick={() => give.mutate({ number: device.number, job: device.job })}>
            Set anew
          </Button>
        )}
      </span>
    </DeviceLine>
  );
}

function spelled(job: JobLine): [string, string] {
  return [String(job.id), `${job.title}, ${job.state}`];
}
