import type { ReactNode } from "react";
import { Link, Navigate } from "react-router";

import { refusedAt, type Schemas } from "../api/client";
import { useMachines } from "../api/machines";
import type { ShownTrain, Plan } from "../api/planned";
import { nameIn } from "../app/named";
import { Failure } from "../app/Notice";
import { PlanFailure } from "../app/PlanFailure";
import type { KindName } from "../app/planned";
import type { WayBack } from "../app/wayBack";
import type { Merit } from "../drawing/Nut";
import { InHandProvider } from "../drawing/inHand";
import { buttonLook } from "../kit/Button";
import { Callout } from "../kit/Callout";
import { preload } from "../kit/preload";
import { Stale } from "../kit/Stale";
import { Working } from "../kit/Working";
import type { OnPaper } from "./onPaper";
import { LoggedProvider } from "./LastTime";
import { SetUpMark } from "./SheetMark";
import { StationFrame } from "./StationFrame";
import { FirstAsk, NamedElsewhere, NotInAddress, Shelf, useNoSuchMachine } from "./StationParts";
import type { Planning } from "./usePlanning";

const PrintedSheet = preload(() => import("./PrintedSheet").then((m) => m.PrintedSheet));

interface Texts {
  /** Before anything is asked. */
  title: string;
  say: string;
  examples: string[];
  /** While trains are looked for. */
  working: string;
  /** Where nothing can be drawn yet. */
  undrawn: string;
}

/** The fields of a machine's record without which it plans nothing. */
const NEEDED = ["screw", "ratio", "feed"];

/** A station that plans trains: ask, list, drawing, sheet, shelf and paper, of whatever machine. */
export function PlanningStation<P extends Plan<C>, C extends ShownTrain, N, S>(props: {
  kind: KindName;
  station: Planning<P, C, N, S>;
  size: "lathe" | "wide";
  phoneDrawing?: string;
  texts: Texts;
  /** What is on the machine, while nothing is asked. */
  now: (now: N) => ReactNode;
  list: (plan: P, chosen: C | undefined) => ReactNode;
  drawing: (chosen: C, plan: P) => ReactNode;
  sheet: (chosen: C, plan: P) => ReactNode;
  /** The best of a plan in a few words, for who does not see the list. */
  heard: (plan: P) => string;
  /** Wheels that are planned, for the shelf. */
  onShelf: (chosen: C) => Schemas["Drawing"] | undefined;
  paper: (chosen: C, plan: P) => { merit: Merit; drawn: OnPaper[] };
}) {
  const { kind, station, texts } = props;
  const { request, name, plan, now, own, shown, chosen } = station;
  const machines = useMachines();
  const none = useNoSuchMachine(kind, request.machine);
  if (none) return none;
  const named = nameIn(request.ask);
  const meant = machines.data?.find((m) => m.kind === kind && m.name.toLowerCase() === named);
  if (meant && meant.slug !== request.machine)
    return <Navigate replace to={`/${kind}/${meant.slug}?${station.search}`} />;
  const lacks = refusedAt(plan.error);
  const noWheels = lacks("stock");
  const needed = NEEDED.find(lacks);
  const unfinished = noWheels ?? (needed && lacks(needed));
  const here: WayBack = { back: `/${kind}/${request.machine}?${station.search}`, field: needed };
  const mend = noWheels
    ? { to: "/machines", text: `Give ${name} its wheels` }
    : { to: `/machines/${request.machine}`, text: `Open ${name}’s record` };
  const logged = (chosen: C, plan: P) =>
    request.ask
      ? {
          machine: request.machine,
          ask: plan.ask.canonical,
          train: chosen.train,
          first: station.first,
          take: station.choose,
        }
      : undefined;
  const paper = station.ready && shown && chosen && props.paper(chosen, shown);
  const page = (
    <StationFrame
      size={props.size}
      phoneDrawing={props.phoneDrawing}
      list={
        <>
          {!request.ask && now.error && (
            <Failure error={now.error} retry={() => void now.refetch()} />
          )}
          {!request.ask && (
            <FirstAsk
              title={texts.title}
              say={texts.say}
              examples={texts.examples}
              take={station.ask}
              name={name}
              now={now.data != null && props.now(now.data as N)}
            />
          )}
          {unfinished && (
            <Callout tone="wrong">
              <p>{unfinished}</p>
              <Link className={`${buttonLook("main")} mt-2`} to={mend.to} state={here}>
                {mend.text}
              </Link>
            </Callout>
          )}
          {plan.error && request.ask && !unfinished && (
            <PlanFailure error={plan.error} retry={() => void plan.refetch()} take={station.ask} />
          )}
          {named && !meant && machines.data && shown && (
            <NamedElsewhere kind={kind} named={named} name={name} />
          )}
          {station.lost && own.error && (
            <NotInAddress
              error={own.error}
              retry={() => void own.refetch()}
              text={`The train in the address, “${station.wanted}”, is not shown.`}
              first={() => station.choose("")}
            />
          )}
          {request.ask && shown && (shown.first || shown.candidates.length > 0) && (
            <Stale {...station.listAged}>{props.list(shown, chosen)}</Stale>
          )}
          {request.ask && shown && !shown.first && shown.candidates.length === 0 && (
            <p>{shown.shortfall ?? "No train can be made of these wheels."}</p>
          )}
          {plan.isPending && !shown && request.ask && <Working text={texts.working} />}
        </>
      }
      drawing={
        <Stale {...station.aged} note className="absolute inset-0">
          {chosen && shown ? (
            props.drawing(chosen, shown)
          ) : (
            <p className="grid h-full place-items-center p-6 text-center text-soft">
              {texts.undrawn}
            </p>
          )}
        </Stale>
      }
      sheet={
        chosen &&
        shown &&
        !station.standing && (
          <Stale {...station.aged} className="h-full">
            <LoggedProvider value={logged(chosen, shown)}>
              {props.sheet(chosen, shown)}
            </LoggedProvider>
          </Stale>
        )
      }
      shelf={
        <Shelf
          shelf={station.shelf}
          drawing={request.ask && chosen ? props.onShelf(chosen) : undefined}
          planned={station.outlines}
          name={name}
        />
      }
    />
  );
  const answered = request.ask && shown && !station.listAged.old;
  return (
    <>
      <p role="status" aria-label="Answer" className="sr-only">
        {answered &&
          (shown.candidates.length > 0
            ? `${shown.candidates.length} trains. The first: ${props.heard(shown)}.`
            : (shown.shortfall ?? "No train."))}
      </p>
      {station.put ? <InHandProvider put={station.put}>{page}</InHandProvider> : page}
      {paper && (
        <PrintedSheet
          sheet={chosen.sheet}
          merit={paper.merit}
          drawn={paper.drawn}
          mark={
            <SetUpMark
              station={kind}
              machine={request.machine}
              ask={shown?.ask.canonical ?? station.line}
              train={chosen.train}
            />
          }
        />
      )}
    </>
  );
}
