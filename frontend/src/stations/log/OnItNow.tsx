import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import type { Outline, Schemas } from "../../api/client";
import { HOBBER } from "../../api/hobbing";
import { LATHE } from "../../api/lathe";
import { useShelf } from "../../api/machines";
import { MILL } from "../../api/milling";
import type { Looked, Plan, PlannedKind } from "../../api/planned";
import { usePreferences } from "../../app/preferences";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";

type Drawing = Schemas["Drawing"];
const [WIDE, HIGH] = [420, 320];

/** What is on a machine now, drawn to scale. */
export function OnItNow({ kind, machine, name }: { kind: string; machine: string; name: string }) {
  if (kind === "lathe") return <OnLathe machine={machine} name={name} />;
  if (kind === "hobber")
    return (
      <Standing kind={HOBBER} machine={machine}>
        {(one, outlines) =>
          one.drawn.map((box) => (
            <Drawn
              key={box.box}
              {...{ machine, outlines }}
              title={box.name}
              drawing={box.drawing}
            />
          ))
        }
      </Standing>
    );
  return (
    <Standing kind={MILL} machine={machine}>
      {(one, outlines) => (
        <Drawn machine={machine} outlines={outlines} title="" drawing={one.drawing} />
      )}
    </Standing>
  );
}

function OnLathe({ machine, name }: { machine: string; name: string }) {
  const { units } = usePreferences();
  const now = useQuery(LATHE.now(machine, units)).data;
  const shelf = useShelf(machine).data;
  if (!now?.first || !shelf) return null;
  return (
    <Row>
      <Drawn
        machine={name}
        outlines={[...shelf.outlines, ...now.outlines]}
        title=""
        drawing={now.first.drawing}
      />
    </Row>
  );
}

function Standing<P extends Plan<C>, C extends Looked, N>({
  kind,
  machine,
  children,
}: {
  kind: PlannedKind<P, C, N>;
  machine: string;
  children: (one: C, outlines: Outline[]) => ReactNode;
}) {
  const { units } = usePreferences();
  const now = useQuery(kind.now(machine, units)).data;
  const standing = now ? kind.standing?.(now) : undefined;
  const asked = {
    machine,
    ask: standing?.ask ?? "",
    order: "least_trouble",
    material: "mild_steel",
  } as const;
  const one = useQuery({
    ...kind.train(asked, standing?.train ?? "", units),
    enabled: standing != null,
  }).data;
  const shelf = useShelf(machine).data;
  if (!one || !shelf) return null;
  return <Row>{children(one.candidate, [...shelf.outlines, ...one.outlines])}</Row>;
}

function Row({ children }: { children: ReactNode }) {
  return <div className="mt-2 flex flex-wrap gap-4">{children}</div>;
}

function Drawn(props: { machine: string; outlines: Outline[]; title: string; drawing: Drawing }) {
  return (
    <figure className="break-inside-avoid border border-line bg-paper p-2">
      {props.title && <figcaption className="font-bold capitalize">{props.title}</figcaption>}
      <QuadrantDrawing
        drawing={{ ...props.drawing, clearances: [] }}
        outlines={props.outlines}
        machine={props.machine}
        train={props.title}
        width={WIDE}
        height={HIGH}
        turning={false}
        terse
      />
    </figure>
  );
}
