import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useState } from "react";
import { useNavigate } from "react-router";

import { type SearchResult, useFind } from "../api/find";
import { useMachines } from "../api/machines";
import { DialogFrame } from "../kit/DialogFrame";
import { useDebouncedValue } from "../kit/useDebouncedValue";
import { Failure } from "./Notice";
import { PAGES } from "./pages";
import { PLANNED, plannedKind } from "./planned";

/** ms that typing stands still before the shop is searched. */
const PAUSE = 150;
const LONGEST = 100;

interface Place {
  to: string;
  name: string;
  text: string;
}

/** One field that finds machines, jobs, wheels, cutters, bar, entries of the log and pages, and goes there. */
export function SearchDialog({ close, start = "" }: { close: () => void; start?: string }) {
  const [text, setText] = useState(start);
  const sought = useDebouncedValue(text.trim(), PAUSE);
  const finding = useFind(sought);
  const pages = usePages();
  const navigate = useNavigate();
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = pages.filter(({ name, text }) =>
    words.every((word) => `${name} ${text}`.toLowerCase().includes(word)),
  );
  const known = text.trim() !== "" && sought === text.trim() ? finding.data : undefined;
  const places = [...(known?.things.map(placeOf) ?? []), ...(words.length > 0 ? shown : [])];
  const nothing = known && !finding.isPlaceholderData && places.length === 0;
  return (
    <DialogFrame title="Search" close={close} wide="max-w-xl">
      <Combobox
        immediate
        onChange={(place: Place | null) => {
          if (!place) return;
          close();
          void navigate(place.to);
        }}
      >
        <ComboboxInput
          autoFocus
          value={text}
          onChange={(event) => setText(event.target.value)}
          aria-label="Machine, wheel, job, cutter, bar or page"
          placeholder="Plover, 48 worn, 57, cutter 55, chart"
          maxLength={LONGEST}
          autoComplete="off"
          spellCheck={false}
          className="mt-3 min-h-11 w-full rounded-sm border-2 border-blue bg-paper px-3 text-large text-ink"
        />
        <p role="status" className="mt-2 text-lesser text-soft empty:hidden">
          {nothing && `Nothing is called “${text.trim()}”.`}
          {known && known.more > 0 && `And ${known.more} more: add a word.`}
        </p>
        {finding.error && <Failure error={finding.error} />}
        {places.length > 0 && (
          <ComboboxOptions static modal={false} aria-label="Found" className="mt-2">
            {places.map((place) => (
              <ComboboxOption
                key={place.to}
                value={place}
                className="grid min-h-11 cursor-pointer grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-center gap-3 border-t border-line px-2 py-1 data-focus:bg-blue-bg"
              >
                <b>{place.name}</b>
                <span className="text-lesser text-soft">{place.text}</span>
              </ComboboxOption>
            ))}
          </ComboboxOptions>
        )}
      </Combobox>
    </DialogFrame>
  );
}

/** Where a thing is looked at. */
function placeOf({ sort, key, kind, name, text }: SearchResult): Place {
  const to = {
    machine: plannedKind(kind) ? `/${kind}/${key}` : `/machines/${key}`,
    job: `/jobs/${key}`,
    wheel: `/rack?wheel=${key}`,
    cutter: `/rack/stores?cutter=${key}`,
    bar: `/rack/stores?bar=${key}`,
    entry: `/log?entry=${key}`,
  }[sort];
  return { to, name: sort === "wheel" ? `${name} teeth` : name, text };
}

/** Every page of the menu, those of each machine too. */
function usePages(): Place[] {
  const machines = useMachines().data ?? [];
  const plain = PAGES.flatMap(({ to, name, within = [] }) => [
    { to, name, text: "page" },
    ...within.map((page) => ({ to: page.to, name: page.name, text: `page of ${name}` })),
  ]);
  const own = machines
    .filter((one) => !one.archived)
    .flatMap(({ slug, name, kind }) => [
      ...(PLANNED.find((one) => one.kind === kind)?.pages ?? []).map((page) => ({
        to: `/${kind}/${slug}/${page.path}`,
        name: page.name,
        text: `page of ${name}`,
      })),
      { to: `/machines/${slug}`, name: "Record", text: `page of ${name}` },
    ]);
  return [...plain, ...own];
}
