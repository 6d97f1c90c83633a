import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { type KeyboardEvent, useCallback, useEffect, useRef, useState } from "react";
import { useLocation, useNavigate, useSearchParams } from "react-router";

import { useReading } from "../api/lathe";
import { Button } from "../kit/Button";
import { useKey } from "./keys";
import { PLANNED } from "./planned";
import { usePreferences } from "./preferences";
import { searched } from "./search";
import { useDebouncedValue } from "../kit/useDebouncedValue";

const PAUSE = 350;
const EXAMPLES: Record<string, string> = {
  ...Object.fromEntries(PLANNED.map(({ kind, example }) => [kind, example])),
  wheel: "57, 41 m1.25",
  dividing: "57",
  jobs: "make 57 for Plover",
};
/** Stations at which a bare line means what is usual there; the server says what. */
const STATIONS = [...PLANNED.map(({ kind }) => kind), "wheel", "dividing", "jobs"] as const;
const PANEL =
  "absolute inset-x-0 top-full z-40 border-2 border-t-0 border-enamel bg-paper text-ink shadow-lg";

/** One box that takes what people say. A whole ask is planned after a short pause; Enter asks at once. */
export function AskLine({ machine }: { machine: string }) {
  const { units } = usePreferences();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const current = search.get("ask") ?? "";
  const [text, setText] = useState(current);
  const [open, setOpen] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const settled = useDebouncedValue(text, PAUSE);
  const place = pathname.split("/")[1];
  const at = STATIONS.find((station) => station === place) ?? "";
  const reading = useReading(settled, units, at);
  const known =
    text.trim() !== "" && settled === text && !reading.isPlaceholderData ? reading.data : undefined;

  // The field keeps what its keys typed, so it is told where the line becomes something else.
  const put = useCallback((line: string) => {
    setText(line);
    if (field.current && field.current.value !== line) field.current.value = line;
  }, []);
  // The line as a person typed it; what came from the address is not asked for again.
  const byHand = useRef("");
  const [before, setBefore] = useState(current);
  if (before !== current) {
    setBefore(current);
    setText(current);
  }
  useEffect(() => {
    byHand.current = "";
    if (field.current && field.current.value !== current) field.current.value = current;
  }, [current]);
  useKey("/", () => {
    field.current?.focus();
    field.current?.select();
  });

  const commit = (typed: string, replace: boolean) => {
    const ask = (typed === settled.trim() && known?.asks) || typed;
    const station = known?.station ?? (at || "lathe");
    const here = pathname.startsWith(`/${station}/`);
    const next = new URLSearchParams(station === "lathe" || here ? search : undefined);
    next.set("ask", ask);
    next.delete("train");
    // On a machine of the station the ask stays with it; the lathe is known without.
    const there =
      here && station !== "lathe" ? pathname.split("/").slice(0, 3).join("/") : `/${station}`;
    void navigate(`${station === "lathe" ? `/lathe/${machine}` : there}?${next}`, { replace });
  };
  // Entered before it was read, an ask of another station, or a bare one, stands in the address until it is. A job is
  // begun from an ask of any station.
  const strayed =
    known !== undefined &&
    (known.asks !== "" ||
      (!pathname.startsWith(`/${known.station}`) && at !== "" && at !== "jobs")) &&
    settled.trim() === current.trim();
  useEffect(() => {
    if (strayed) commit(settled.trim(), true);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only that it strayed sets this off
  }, [strayed]);
  // At the root nothing is planned yet: the way on to the first lathe would overtake the ask.
  const ready = (known?.whole ?? false) && machine !== "" && pathname !== "/";
  useEffect(() => {
    if (ready && byHand.current === settled && settled.trim() !== current.trim())
      commit(settled.trim(), true);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what was typed sets this off, or that it can be planned now
  }, [settled, ready]);

  const take = (ask: string) => {
    put(ask);
    setOpen(false);
    commit(ask, false);
    field.current?.focus();
  };
  const fresh = open && known !== undefined && text.trim() !== current.trim();
  // What is planned already is not covered, but where its number may go on: M1 is the beginning of M10.
  const goesOn = ({ ask }: { ask: string }) =>
    /\d$/.test(text) &&
    ask.toLowerCase().startsWith(text.toLowerCase()) &&
    /\d/.test(ask.charAt(text.length));
  const completions =
    open && known
      ? known.completions.filter((c) => c.ask !== text.trim() && (fresh || goesOn(c)))
      : [];
  // An ask that was put and failed is spoken of in the station itself.
  const puzzled = fresh && !known.whole && completions.length === 0;
  // The line itself comes first, so that Enter asks what is typed unless another one is gone to.
  const typed = { ask: text, means: "as typed" };
  const offered = completions.length > 0 ? [typed, ...completions] : [];

  /** Keys that are the line's own, or that the list must not take while it shows nothing. */
  const keptFromList = (event: KeyboardEvent) => {
    if (event.key === "Escape") {
      if (open) setOpen(false);
      else field.current?.blur();
    }
    const own = ["Home", "End", "Tab"].includes(event.key);
    if (own || (event.key === "Enter" && offered.length === 0)) event.stopPropagation();
  };
  return (
    <form
      role="search"
      className="relative min-w-52 flex-1 tall:order-first tall:basis-full phone:order-none phone:basis-0"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) commit(text.trim(), false);
        setOpen(false);
      }}
      onKeyDownCapture={keptFromList}
      onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && setOpen(false)}
    >
      <Combobox value={text} onChange={(ask) => ask !== null && take(ask.trim())}>
        <div className="flex min-h-11 flex-wrap items-center gap-x-3 border-b-3 border-brass-line bg-paper px-3 text-ink">
          <ComboboxInput
            ref={field}
            displayValue={(ask: string) => ask}
            onChange={(event) => {
              // The key that leads here, pressed when the field is focused already, is no part of an ask.
              byHand.current = event.target.value.replace(/^\s*\//, "");
              put(byHand.current);
              setOpen(true);
            }}
            aria-label="What is wanted"
            aria-describedby="ask-reading"
            placeholder={`e.g. ${EXAMPLES[pathname.split("/")[1] ?? ""] ?? PLANNED[0].example}`}
            autoComplete="off"
            autoCapitalize="off"
            spellCheck={false}
            autoFocus
            size={text ? text.length + 1 : 24}
            className="max-w-full min-w-24 shrink bg-transparent py-1 font-mono text-title font-bold outline-none placeholder:font-normal placeholder:text-soft"
          />
          <span
            id="ask-reading"
            aria-live="polite"
            className="min-w-0 flex-1 basis-72 text-lesser leading-tight text-soft empty:basis-0 tall:order-last tall:basis-full tall:empty:hidden"
          >
            {known?.whole ? known.description : known?.says}
          </span>
          <kbd className="ml-auto rounded-sm border border-line px-2 font-mono text-fine text-soft tall:hidden">
            /
          </kbd>
        </div>
        {offered.length > 0 && (
          <ComboboxOptions modal={false} aria-label="How it could go on" className={PANEL}>
            {offered.map(({ ask, means }) => (
              <ComboboxOption
                key={ask}
                value={ask}
                className="flex min-h-11 cursor-pointer items-center gap-4 px-3 data-focus:bg-blue-bg"
              >
                <b className="min-w-40 font-mono">{ask}</b>
                <span className="text-lesser text-soft">{means}</span>
              </ComboboxOption>
            ))}
          </ComboboxOptions>
        )}
      </Combobox>
      {puzzled && (
        <div className={`${PANEL} p-4`}>
          <Reading reading={known} take={take} />
          <Button
            look="quiet"
            className="mt-3"
            onClick={() => {
              setOpen(false);
              searched.set(text.trim());
            }}
          >
            Search the shop for “{text.trim()}”
          </Button>
        </div>
      )}
    </form>
  );
}

/** What was understood of an ask, what not, and the nearest that would be. */
export function Reading(props: {
  reading: {
    understood: string[];
    left_over: string[];
    nearest: string[];
    says?: string | null;
    would_do?: string | null;
  };
  take: (ask: string) => void;
}) {
  const { understood, left_over, nearest, says, would_do } = props.reading;
  return (
    <>
      {says && (
        <p>
          <b>{says}</b> {would_do}
        </p>
      )}
      {understood.length > 0 && (
        <p className="mt-1 text-soft">Understood: {understood.join("; ")}.</p>
      )}
      {left_over.length > 0 && understood.length > 0 && (
        <p className="text-soft">Not understood: {left_over.join(" ")}.</p>
      )}
      {nearest.length > 0 && (
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <span>Did you mean</span>
          {nearest.map((ask) => (
            <button
              key={ask}
              type="button"
              className="min-h-11 rounded-sm border border-blue bg-blue-bg px-3 font-mono font-bold text-ink"
              onClick={() => props.take(ask)}
            >
              {ask}
            </button>
          ))}
        </div>
      )}
    </>
  );
}
