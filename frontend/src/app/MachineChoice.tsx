import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/react";
import { useLocation, useNavigate, useSearchParams } from "react-router";

import { useMachines } from "../api/questions";

/** Which lathe the ask is for. The ask stays when the lathe changes. */
export function MachineChoice({ machine }: { machine: string }) {
  const machines = useMachines();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { pathname } = useLocation();
  const lathes = machines.data?.filter((m) => m.kind === "lathe") ?? [];
  const chosen = lathes.find((m) => m.slug === machine);
  if (!chosen) return null;
  const choose = (slug: string) => {
    // What stands in another station's address is no ask for a lathe.
    const kept = new URLSearchParams(pathname.startsWith("/lathe/") ? search : undefined);
    kept.delete("train");
    const page = pathname.startsWith("/lathe/") ? pathname.split("/").slice(3).join("/") : "";
    void navigate(`/lathe/${slug}${page && `/${page}`}?${kept}`);
  };
  return (
    <Listbox value={machine} onChange={choose}>
      <ListboxButton
        aria-label={`on ${chosen.name}, choose another lathe`}
        className="flex min-h-11 items-center gap-2 rounded-sm border border-white/35 px-3 text-[15px] text-[#f7f6f0] hover:bg-white/10"
      >
        <span className="text-white/75">on</span> <b>{chosen.name}</b> <span aria-hidden>▾</span>
      </ListboxButton>
      <ListboxOptions
        anchor="bottom end"
        className="z-40 mt-1 min-w-64 rounded-sm border-2 border-enamel bg-paper text-ink shadow-lg outline-none"
      >
        {lathes.map((lathe) => (
          <ListboxOption
            key={lathe.slug}
            value={lathe.slug}
            className="min-h-11 cursor-pointer px-4 py-2 data-focus:bg-blue-bg data-selected:font-bold"
          >
            {lathe.name}
            <span className="block text-[14px] font-normal text-soft">
              screw {lathe.screw}, {lathe.family?.text}
            </span>
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
