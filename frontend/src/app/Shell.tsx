import { Fragment, lazy, type ReactNode, Suspense, useEffect, useRef, useState } from "react";
import { NavLink, Outlet, useLocation, useParams } from "react-router";

import { useMachines } from "../api/machines";
import { conflict } from "../api/saving";
import { useShared } from "../api/shared";
import { Segmented } from "../kit/Segmented";
import { AskLine } from "./AskLine";
import { pageElsewhere } from "./elsewhere";
import { ErrorBoundary } from "./ErrorBoundary";
import { FirstVisit } from "./FirstVisit";
import { useKeptFocus } from "./focus";
import { useCtrlKey, useKey } from "./keys";
import { MachineChoice } from "./MachineChoice";
import { PAGES } from "./pages";
import { PLANNED } from "./planned";
import { usePreferences } from "./preferences";
import { ServerNotice } from "./ServerNotice";
import { search, searched } from "./search";
import { useTitle } from "./title";
import { changesShown } from "./undo";

// Dialogs are fetched once the page stands, so that the first screen does not wait for them.
const dialogs = {
  help: () => import("./HelpDialog"),
  search: () => import("./SearchDialog"),
  elsewhere: () => import("./OtherDeviceDialog"),
  changes: () => import("./ChangesDialog"),
  conflict: () => import("./ConflictDialog"),
};
const HelpDialog = lazy(() => dialogs.help().then((m) => ({ default: m.HelpDialog })));
const SearchDialog = lazy(() => dialogs.search().then((m) => ({ default: m.SearchDialog })));
const OtherDeviceDialog = lazy(() =>
  dialogs.elsewhere().then((m) => ({ default: m.OtherDeviceDialog })),
);
const ChangesDialog = lazy(() => dialogs.changes().then((m) => ({ default: m.ChangesDialog })));
const ConflictDialog = lazy(() => dialogs.conflict().then((m) => ({ default: m.ConflictDialog })));
// ms after which the page stands.
const SETTLED = 3000;

const CUTTING = /^\/jobs\/\d+\/session$/;

const ROUND =
  "grid min-h-11 min-w-11 place-items-center rounded-sm border border-white/35 text-large font-bold text-[#f7f6f0] hover:bg-white/10";

/** The frame: ask line on top, stations at the side, the station in the middle. */
export function Shell() {
  const { units, setUnits, night, setNight } = usePreferences();
  const [help, setHelp] = useState(false);
  const changes = useShared(changesShown);
  const sought = useShared(searched);
  const elsewhere = useShared(pageElsewhere);
  const conflicting = useShared(conflict) !== null;
  useEffect(() => {
    const wait = setTimeout(() => Object.values(dialogs).forEach((load) => void load()), SETTLED);
    return () => clearTimeout(wait);
  }, []);
  const { pathname } = useLocation();
  // On a phone there is room for one row: all but the ask line is behind a button.
  const [menuAt, setMenuAt] = useState<string | null>(null);
  const menu = menuAt === pathname;
  // While one cuts the frame is one thin row.
  const cutting = CUTTING.test(pathname);
  const folded = cutting && !menu;
  const planned = usePlanned(pathname);
  const section = pathname.split("/")[1];
  const { kind, machine } = planned.find((one) => one.kind === section) ?? planned[0]!;
  useTitle(pathname);
  const main = useStationFocus(pathname);
  useKeptFocus(main);
  useKey("u", () => setUnits(units === "mm" ? "inch" : "mm"));
  useKey("n", () => setNight(!night));
  useKey("?", () => setHelp(true));
  useCtrlKey("k", search);
  return (
    <div className="flex h-full flex-col print:block">
      <a
        href="#station"
        className="absolute -top-20 left-2 z-50 flex min-h-11 items-center rounded-sm border-2 border-blue bg-paper px-4 font-bold text-ink focus:top-2"
      >
        Go to the station
      </a>
      <header
        className={`on-enamel flex flex-wrap items-center gap-3 bg-enamel print:hidden phone:gap-2 ${folded ? "px-1" : "px-4 py-2 phone:px-2 phone:py-1.5"}`}
      >
        <button
          type="button"
          className={`${ROUND} ${cutting ? "" : "hidden phone:grid"}`}
          aria-label="Menu"
          aria-expanded={menu}
          onClick={() => setMenuAt(menu ? null : pathname)}
        >
          <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden stroke="currentColor">
            <path d="M3 5.5 H17 M3 10 H17 M3 14.5 H17" strokeWidth="1.8" />
          </svg>
        </button>
        {folded && <span className="text-fine text-[#eef1ea]">Cutting</span>}
        <NavLink
          to="/"
          className={`mr-3 text-heading font-bold text-[#f7f6f0] phone:hidden ${folded ? "hidden" : ""}`}
        >
          Valleywind
        </NavLink>
        {!folded && <AskLine machine={planned[0]!.machine} />}
        <div
          className={
            folded
              ? "hidden"
              : `contents ${menu ? "phone:flex phone:w-full phone:flex-wrap phone:gap-2" : "phone:hidden"}`
          }
        >
          {/* Where no train is planned a line is the lathe's. */}
          <MachineChoice kind={kind} machine={machine} />
          <Segmented
            label="Units"
            value={units}
            options={[
              ["mm", "mm"],
              ["inch", "inch"],
            ]}
            onChange={setUnits}
          />
          <Sign
            name="Night colours"
            title="Day or night (n)"
            pressed={night}
            does={() => setNight(!night)}
          >
            <circle cx="10" cy="10" r="7" />
            <path d="M10 3 A7 7 0 0 1 10 17 Z" fill="currentColor" stroke="none" />
          </Sign>
          <Sign name="Search the shop" title="Search (Ctrl K)" does={search}>
            <circle cx="8.5" cy="8.5" r="5" />
            <path d="M12.3 12.3 L17 17" />
          </Sign>
          <Sign
            name="This page on another device"
            title="QR code of this page"
            does={() => pageElsewhere.set(true)}
          >
            <path d="M3 3 H8 V8 H3 Z M12 3 H17 V8 H12 Z M3 12 H8 V17 H3 Z M12 12 H14 M17 12 V17 M12 15 V17 H14" />
          </Sign>
          <Sign name="Latest changes" does={() => changesShown.set(true)}>
            <path d="M4 7 H12 A4.5 4.5 0 0 1 12 16 H7" />
            <path d="M7.5 3.5 L4 7 L7.5 10.5" />
          </Sign>
          <button
            type="button"
            className={ROUND}
            aria-label="Help"
            title="Help (?)"
            onClick={() => setHelp(true)}
          >
            ?
          </button>
        </div>
      </header>
      <ServerNotice />
      <div className="flex min-h-0 flex-1 print:block tall:flex-col">
        <nav
          aria-label="Stations"
          className={`on-enamel flex w-26 shrink-0 flex-col gap-1 bg-enamel-2 py-3 pl-2.5 print:hidden tall:w-full tall:flex-row tall:flex-wrap tall:gap-y-0 tall:py-0 tall:pt-1 phone:pl-1 ${folded ? "hidden" : menu ? "" : "phone:hidden"}`}
        >
          <Station to="/today" name="Today" />
          {planned.map(
            ({ kind, title, pages, machine }) =>
              // The lathe stands there always: there one adds the first machine.
              (machine || kind === "lathe") && (
                <Fragment key={kind}>
                  <Station to={machine ? `/${kind}/${machine}` : "/lathe"} name={title} />
                  {!machine && <Station to="/machines/new/unknown" name="Constants" isWithin />}
                  {machine &&
                    section === kind &&
                    pages.map(({ path, name }) => (
                      <Station key={path} to={`/${kind}/${machine}/${path}`} name={name} isWithin />
                    ))}
                </Fragment>
              ),
          )}
          {PAGES.map(({ to, name, within = [], holds = false }) => (
            <Fragment key={to}>
              <Station
                to={to}
                name={name}
                holds={holds && !within.some((page) => pathname.startsWith(page.to))}
              />
              {pathname.startsWith(to) &&
                within.map((page) => <Station key={page.to} {...page} isWithin />)}
            </Fragment>
          ))}
        </nav>
        <main
          ref={main}
          id="station"
          tabIndex={-1}
          className="min-h-0 min-w-0 flex-1 outline-none print:block"
        >
          <ErrorBoundary place={pathname}>
            <Outlet />
          </ErrorBoundary>
        </main>
      </div>
      <FirstVisit place={pathname} more={() => setHelp(true)} />
      <Suspense fallback={null}>
        {help && <HelpDialog place={pathname} close={() => setHelp(false)} />}
        {sought !== null && <SearchDialog start={sought} close={() => searched.set(null)} />}
        {elsewhere && <OtherDeviceDialog close={() => pageElsewhere.set(false)} />}
        {changes && <ChangesDialog open close={() => changesShown.set(false)} />}
        {conflicting && <ConflictDialog />}
      </Suspense>
    </div>
  );
}

/** A button of the frame with a sign in place of a word, drawn in a field of 20 × 20. */
function Sign(props: {
  name: string;
  title?: string;
  pressed?: boolean;
  does: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className={ROUND}
      aria-pressed={props.pressed}
      aria-label={props.name}
      title={props.title ?? props.name}
      onClick={props.does}
    >
      <svg
        viewBox="0 0 20 20"
        width="20"
        height="20"
        aria-hidden
        fill="none"
        stroke="currentColor"
        strokeWidth="1.8"
      >
        {props.children}
      </svg>
    </button>
  );
}

function Station(props: {
  to: string;
  name: string;
  /** It stands below its station. */
  isWithin?: boolean;
  /** What is reached from it has no place of its own here. */
  holds?: boolean;
}) {
  const { to, name, isWithin = false, holds = false } = props;
  return (
    <NavLink
      to={to}
      end={!holds}
      className={`${isWithin ? "pl-4.5" : "pl-2.5"} flex min-h-11 items-center rounded-l-sm pr-2 text-lesser text-[#eef1ea] aria-[current=page]:bg-chalk aria-[current=page]:font-bold aria-[current=page]:text-ink tall:rounded-t-sm tall:rounded-bl-none tall:px-3`}
    >
      {name}
    </NavLink>
  );
}

/** Where a station goes and takes the focus with it, the focus is in the next one, not lost. */
function useStationFocus(pathname: string) {
  const main = useRef<HTMLElement>(null);
  const first = useRef(true);
  useEffect(() => {
    if (!first.current && document.activeElement === document.body) main.current?.focus();
    first.current = false;
  }, [pathname]);
  return main;
}

/** Every kind with its machine in the address, else the first there is; empty where there is none. */
function usePlanned(pathname: string) {
  const { machine } = useParams();
  const machines = useMachines().data ?? [];
  return PLANNED.map((one) => {
    // Before the list is there the address is believed.
    const here = machine && pathname.startsWith(`/${one.kind}/`) ? machine : undefined;
    return {
      ...one,
      machine: here ?? machines.find((m) => m.kind === one.kind && !m.archived)?.slug ?? "",
    };
  });
}
