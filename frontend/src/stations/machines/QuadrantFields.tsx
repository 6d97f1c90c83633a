import { useMemo } from "react";

import type { Drawing, Schemas } from "../../api/client";
import type { QuadrantEdits } from "../../drawing/QuadrantHandles";
import { Button } from "../../kit/Button";
import { Part, Row } from "../../kit/Form";
import { Typed } from "../../kit/Typed";
import { CalipersHelp } from "./CalipersHelp";

export type Quadrant = Schemas["QuadrantIO"];
/** Changes some fields, as they stand at that moment. */
export type PutQuadrant = (change: (now: Quadrant) => Partial<Quadrant>) => void;

/** The fields that a new quadrant starts from. */
export const QUADRANT: Quadrant = {
  first_x: "60", first_y: "120", swing_low: "20", swing_high: "120", boss_first: "12", boss_stud: "10", boss_last: "12", gap: "0.5", studs: "2",
  slots: [{ offset: "0", nearest: "50", farthest: "180" }], cover: "",
};

/** Where the shafts are, the slots and the cover; `names` is what this machine calls them. */
export function QuadrantFields({ quadrant, put, wrong, names }: { quadrant: Quadrant; put: PutQuadrant; wrong: (field: string) => string | undefined; names: { first: string; last: string; carrier: string } }) {
  const text = (name: keyof Quadrant & string, label: string, placeholder?: string) => (
    <Typed label={label} value={String(quadrant[name] ?? "")} onChange={(value) => put(() => ({ [name]: value }))} placeholder={placeholder} problem={wrong(name)} numeric={name !== "cover"} />
  );
  const slots = quadrant.slots ?? [];
  return (
    <>
      <Part title={`${names.first[0]!.toUpperCase()}${names.first.slice(1)}, seen from the ${names.last}, from the gear end`} note="mm to the right and up. Everything marked in brass can be dragged in the drawing too.">
        <Row>
          {text("first_x", "To the right", "72")}
          {text("first_y", "Up", "168")}
        </Row>
        <CalipersHelp take={(x, y, first, last) => put(() => ({ first_x: figure(x), first_y: figure(y), boss_first: figure(first), boss_last: figure(last) }))} />
        <Row>
          {text("boss_first", "Boss, radius", "16")}
          {text("boss_stud", "Stud’s nut", "14")}
          {text("boss_last", `Collar of the ${names.last}`, "16")}
        </Row>
      </Part>
      <Part title={`${names.carrier[0]!.toUpperCase()}${names.carrier.slice(1)}`} note={`Slots are straight from the centre of the ${names.last} outward; the first one’s direction is the swing, in degrees from level right.`}>
        <Row>
          {text("swing_low", "Swing from, °", "15")}
          {text("swing_high", "to, °", "125")}
        </Row>
        <Row>
          {text("studs", "Studs", "2")}
          {text("gap", "Least room", "0.5")}
        </Row>
        {slots.map((slot, n) => (
          <div key={n}>
            <Row>
              {(["offset", "nearest", "farthest"] as const).map((name) => (
                <Typed
                  key={name}
                  label={`Slot ${"ABCD"[n]}: ${name === "offset" ? "from A, °" : name}`}
                  value={slot[name] ?? ""}
                  onChange={(value) => put((now) => ({ slots: now.slots!.map((s, k) => (k === n ? { ...s, [name]: value } : s)) }))}
                  numeric
                />
              ))}
              <Button look="quiet" className="self-end" aria-label={`Take slot ${"ABCD"[n]} out`} onClick={() => put((now) => ({ slots: now.slots!.filter((_, k) => k !== n) }))}>
                ✕
              </Button>
            </Row>
            {wrong(`slots.${n}`) && (
              <p role="alert" className="text-[14px] text-oxide">
                {wrong(`slots.${n}`)}
              </p>
            )}
          </div>
        ))}
        {slots.length < 4 && <Button onClick={() => put((now) => ({ slots: [...(now.slots ?? []), { offset: slots.length ? "-35" : "0", nearest: "60", farthest: "170" }] }))}>One more slot</Button>}
        {wrong("slots") && <p className="text-[14px] text-oxide">{wrong("slots")}</p>}
        {text("cover", "Cover: its corners, right and up", "-150 -110, 180 -110, 180 280, -150 280")}
      </Part>
    </>
  );
}

/** What dragging and arrow keys in the drawing change in the fields. */
export function useQuadrantEdits(quadrant: Quadrant, put: PutQuadrant, drawing: Drawing | null | undefined): QuadrantEdits {
  return useMemo((): QuadrantEdits => {
    const swing: [number, number] = [Number(quadrant.swing_low) || 0, Number(quadrant.swing_high) || 0];
    return {
      swing,
      moveFirst: (x, y) => put(() => ({ first_x: figure(x), first_y: figure(y) })),
      moveSwing: (end, angle) => {
        // An angle just below the one of a full turn is read as a little less than none.
        const degrees = String(Math.round(angle < swing[0] - 180 ? angle + 360 : angle));
        put(() => (end ? { swing_high: degrees } : { swing_low: degrees }));
      },
      moveSlot: (slot, end, distance, angle) => {
        const first = ((drawing?.slots[0]?.angle_rad ?? 0) * 180) / Math.PI;
        const turned = { offset: String(Math.round(angle - first)) };
        put((now) => ({ slots: now.slots?.map((s, k) => (k === slot ? { ...s, ...(slot > 0 && turned), [end]: figure(distance) } : s)) }));
      },
      nudgeFirst: (dx, dy) => put((now) => ({ first_x: more(now.first_x, dx), first_y: more(now.first_y, dy) })),
      nudgeSlot: (slot, end, by) => put((now) => ({ slots: now.slots?.map((s, k) => (k === slot ? { ...s, [end]: more(s[end], by) } : s)) })),
      nudgeSwing: (end, by) => put((now) => (end ? { swing_high: more(now.swing_high, by) } : { swing_low: more(now.swing_low, by) })),
      moveCorner: (corner, x, y) => {
        const corners = drawing?.cover?.map((p, n) => (n === corner ? { x_mm: x, y_mm: y } : p)) ?? [];
        put(() => ({ cover: corners.map((p) => `${figure(p.x_mm)} ${figure(p.y_mm)}`).join(", ") }));
      },
    };
  }, [drawing, quadrant.swing_low, quadrant.swing_high, put]);
}

function figure(mm: number): string {
  return String(Math.round(mm * 10) / 10);
}

function more(typed: string | undefined, by: number): string {
  return figure((Number(typed) || 0) + by);
}
