import { Link, useParams } from "react-router";

import { useMachines } from "../../api/machines";
import { buttonLook } from "../../kit/Button";
import { Failure } from "../../app/Notice";
import LatheEditor from "./LatheEditor";
import { KnownMachine } from "./MachineEditor";

/** The record of the machine in the address, as its kind has it. */
export default function RecordStation() {
  const { edited } = useParams();
  const machines = useMachines();
  if (machines.error)
    return <Failure error={machines.error} retry={() => void machines.refetch()} />;
  if (!machines.data) return null;
  const machine = machines.data.find((m) => m.slug === edited);
  // One just added may not be in the list yet.
  if (!machine && machines.isFetching) return null;
  if (!machine) {
    return (
      <div className="p-6">
        <p>There is no machine “{edited}” here.</p>
        <Link className={`${buttonLook()} mt-3`} to="/machines">
          See the machines
        </Link>
      </div>
    );
  }
  return machine.kind === "lathe" ? <LatheEditor /> : <KnownMachine edited={machine.slug} />;
}
