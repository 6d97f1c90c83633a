import { useState } from "react";
import { Link } from "react-router";

import { type Machine, Refusal } from "../../api/client";
import { useMachines, useSetWheels, useShelf } from "../../api/machines";
import { useLoadDemo, useShop } from "../../api/shop";
import { useMachineKinds } from "../../api/stores";
import { EffortButton } from "../../planning/EffortButton";
import { WheelShelf } from "../../planning/WheelShelf";
import { Callout } from "../../kit/Callout";
import { Button, buttonLook } from "../../kit/Button";
import { Failure } from "../../app/Notice";
import { plannedKind } from "../../app/planned";
import { usePreferences } from "../../app/preferences";
import { CarriedFile } from "./CarriedFile";
import { Copies } from "./Copies";
import { OtherDevices } from "./OtherDevices";
import { ArchiveButton } from "./RecordButtons";
import { useTell } from "../../app/Toast";

/** The shop's machines with their wheels, and where the shop's file lies. */
export default function MachinesStation() {
  const machines = useMachines(usePreferences().units);
  const shop = useShop();
  const kinds = useMachineKinds();
  return (
    <div className="h-full overflow-y-auto p-6 tall:h-auto phone:p-2">
      <div className="mx-auto flex max-w-4xl flex-col gap-6">
        <header>
          <h1 className="text-2xl font-bold">{shop.data?.name ?? "Machines"}</h1>
          {machines.data?.length === 0 && (
            <p className="mt-2">
              There is no machine here yet. Add your lathe, or load the demo shop to look round.
            </p>
          )}
          <div role="group" aria-label="Add a machine" className="mt-3 flex flex-wrap gap-2">
            <span className="self-center">Add</span>
            <Link className={buttonLook()} to="/machines/new" aria-label="Add a lathe">
              a lathe
            </Link>
            {kinds.data?.map(({ path, a }) => (
              <Link
                key={path}
                className={buttonLook()}
                to={`/machines/new/${path}`}
                aria-label={`Add ${a}`}
              >
                {a}
              </Link>
            ))}
            <Link
              className={buttonLook()}
              to="/machines/new/plate"
              aria-label="Add a machine from its plate"
            >
              a machine from its plate
            </Link>
            <Link className={buttonLook()} to="/machines/new/unknown">
              Identify an unknown lathe
            </Link>
          </div>
        </header>
        {machines.error && <Failure error={machines.error} retry={() => void machines.refetch()} />}
        {machines.data
          ?.filter((machine) => !machine.archived)
          .map((machine) => (
            <MachineCard key={machine.slug} machine={machine} />
          ))}
        <ArchivedMachines machines={machines.data?.filter((machine) => machine.archived) ?? []} />
        <OtherDevices />
        <CarriedFile />
        <Copies />
        {shop.data && <ShopFile empty={machines.data?.length === 0} />}
      </div>
    </div>
  );
}

/** Machines that are put away: each can be looked at, and taken into use again. */
function ArchivedMachines({ machines }: { machines: Machine[] }) {
  if (machines.length === 0) return null;
  return (
    <section aria-label="Archived" className="border border-line bg-paper p-5">
      <h2 className="text-xl font-bold">Archived</h2>
      <ul>
        {machines.map((machine) => (
          <li
            key={machine.slug}
            className="flex flex-wrap items-center gap-3 border-b border-line py-2"
          >
            <span className="flex-1">
              <b>{machine.name}</b>{" "}
              <span className="text-soft">
                {[machine.kind, machine.note].filter(Boolean).join(", ")}
              </span>
            </span>
            <ArchiveButton slug={machine.slug} name={machine.name} archived />
            <Link className={buttonLook()} to={`/machines/${machine.slug}`}>
              Edit
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function MachineCard({ machine }: { machine: Machine }) {
  const [open, setOpen] = useState(false);
  const folded = open ? "" : "phone:hidden";
  const facts: [string, string][] = machine.facts.map(({ label, text }) => [label, text]);
  const lathe = machine.kind === "lathe";
  if (machine.family) facts.push(["Wheels", machine.family.text]);
  else if (lathe) facts.push(["Wheels", "pitch not known"]);
  const planned = plannedKind(machine.kind);
  if (planned) facts.push(["On it now", machine.mounted_text ?? "nothing"]);
  return (
    <article className="border border-line bg-paper">
      <div className="flex flex-wrap items-start justify-between gap-4 p-5">
        <div>
          <h2 className="text-xl font-bold">{machine.name}</h2>
          {machine.example && (
            <Callout tone="note" as="p" small className="w-fit">
              Example, not confirmed
            </Callout>
          )}
          <p className="text-soft">
            {[lathe ? "" : machine.kind, machine.note].filter(Boolean).join(", ")}
          </p>
        </div>
        <span className="flex flex-wrap gap-2">
          {planned && (
            <Link className={buttonLook("main")} to={`/${planned.kind}/${machine.slug}`}>
              {planned.plan} on {machine.name}
            </Link>
          )}
          {planned && (
            <Link className={buttonLook()} to={`/${planned.kind}/${machine.slug}/plate`}>
              {planned.plate.title}
            </Link>
          )}
          {(planned || machine.divides) && <EffortButton slug={machine.slug} name={machine.name} />}
          <Link className={buttonLook()} to={`/machines/${machine.slug}`}>
            Edit
          </Link>
        </span>
      </div>
      {/* On a phone the machines stand one below the other: each is folded. */}
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="hidden min-h-11 px-5 pb-2 font-bold text-blue phone:block"
      >
        {open ? "▾" : "▸"} Facts and wheels
      </button>
      <dl
        className={`grid grid-cols-3 gap-x-6 gap-y-3 px-5 pb-4 tall:grid-cols-2 phone:grid-cols-1 ${folded}`}
      >
        {facts.map(([label, text]) => (
          <div key={label}>
            <dt className="text-fine text-soft">{label}</dt>
            <dd>{text}</dd>
          </div>
        ))}
      </dl>
      {machine.takes_wheels && (
        <div className={folded}>
          <ItsWheels machine={machine} />
        </div>
      )}
    </article>
  );
}

/** Its shelf, and the wheels as one line beneath. */
function ItsWheels({ machine }: { machine: Machine }) {
  const shelf = useShelf(machine.slug).data;
  if (!shelf) return <div className="h-40 border-t border-line bg-chalk" />;
  return (
    <>
      <div className="h-40 border-t border-line bg-chalk">
        <WheelShelf shelf={shelf} planned={[]} name={machine.name} />
      </div>
      <Wheels machine={machine} wheels={shelf.held} />
    </>
  );
}

/** The wheels as one line that can be typed over. */
function Wheels({ machine, wheels }: { machine: Machine; wheels: string }) {
  const [typed, setTyped] = useState<string | null>(null);
  // What stood there when one began to type.
  const [seen, setSeen] = useState(wheels);
  const set = useSetWheels(machine.slug);
  const tell = useTell();
  const problem = set.error instanceof Refusal ? set.error.problem.errors?.[0] : undefined;
  const id = `wheels-${machine.slug}`;
  const save = (typed: string) =>
    set.mutate(
      { wheels: typed, seen },
      {
        onSuccess: () => {
          setTyped(null);
          tell({ text: `${machine.name}’s wheels are changed.`, done: true });
        },
      },
    );
  return (
    <form
      className="border-t border-line p-5"
      onSubmit={(event) => {
        event.preventDefault();
        if (typed !== null) save(typed);
      }}
    >
      <label htmlFor={id} className="text-fine text-soft">
        Wheels held, doubles as 32x2. A number taken out stays on the shelf as missing.
      </label>
      <div className="mt-1 flex gap-2">
        <input
          id={id}
          value={typed ?? wheels}
          onChange={(event) => {
            if (typed === null) setSeen(wheels);
            setTyped(event.target.value);
          }}
          aria-invalid={set.isError}
          aria-describedby={`${id}-problem`}
          className="min-h-11 min-w-0 flex-1 rounded-sm border border-steel-2 bg-paper px-3 font-mono"
        />
        <Button type="submit" disabled={typed === null || typed === wheels}>
          Save
        </Button>
      </div>
      <p id={`${id}-problem`} role="alert" className="mt-1 text-oxide">
        {problem ? `${problem.says} ${problem.would_do}` : set.error?.message}
      </p>
    </form>
  );
}

function ShopFile({ empty }: { empty: boolean }) {
  const shop = useShop().data!;
  const load = useLoadDemo();
  const tell = useTell();
  const put = () =>
    load.mutate(undefined, {
      onSuccess: () => tell({ text: "Demo shop loaded.", done: true }),
      onError: (e) => tell({ text: e.message }),
    });
  return (
    <section aria-label="Where it is kept" className="border border-line bg-paper p-5">
      <h2 className="text-xl font-bold">Where it is kept</h2>
      <p className="mt-1">
        Everything is in one file: <code className="font-mono break-all">{shop.path}</code>
      </p>
      <p className="text-soft">{shop.how_to_move}</p>
      {(shop.demo || empty) && (
        <Button className="mt-3" onClick={put} disabled={load.isPending}>
          {shop.demo ? "Reset the demo shop" : "Load the demo shop"}
        </Button>
      )}
      <p className="mt-3 text-fine text-soft">Valleywind {shop.version}</p>
    </section>
  );
}
