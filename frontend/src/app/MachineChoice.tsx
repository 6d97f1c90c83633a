import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/react";
import { useLocation, useNavigate, useSearchParams } from "react-router";

import { useMachines } from "../api/machines";
import type { KindName } from "./planned";

/** Which machine of a kind the ask is for. The ask stays when the machine changes. */
export function MachineChoice({ kind, machine }: { kind: KindName; machine: string }) {
  const machines = useMachines();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { pathname } = useLocation();
  const alike =
    machines.data?.filter((m) => m.kind === kind && (!m.archived || m.slug === machine)) ?? [];
  const chosen = alike.find((m) => m.slug === machine);
  if (!chosen) return null;
  const choose = (slug: string) => {
    // What stands in another station's address is no ask for this machine.
    const here = pathname.startsWith(`/${kind}/`);
    const kept = new URLSearchParams(here ? search : undefined);
    kept.delete("train");
    const page = here ? pathname.split("/").slice(3).join("/") : "";
    void navigate(`/${kind}/${slug}${page && `/${page}`}?${kept}`);
  };
  return (
    <Listbox value={machine} onChange={choose}>
      <ListboxButton
        aria-label={`on ${chosen.name}, choose another ${kind}`}
        className="flex min-h-11 items-center gap-2 rounded-sm border border-white/35 px-3 text-lesser text-[#f7f6f0] hover:bg-white/10"
      >
        <span className="text-white/75">on</span> <b>{chosen.name}</b> <span aria-hidden>▾</span>
      </ListboxButton>
      <ListboxOptions
        anchor="bottom end"
        className="z-40 mt-1 min-w-64 rounded-sm border-2 border-enamel bg-paper text-ink shadow-lg outline-none"
      >
        {alike.map((one) => (
          <ListboxOption
            key={one.slug}
            value={one.slug}
            className="min-h-11 cursor-pointer px-4 py-2 data-focus:bg-blue-bg data-selected:font-bold"
          >
            {one.name}
            <span className="block text-fine font-normal text-soft">
              {[one.screw && `screw ${one.screw}`, one.family?.text].filter(Boolean).join(", ")}
            </span>
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
