import { useMemo } from "react";

import type { Drawing, Schemas } from "../../api/client";
import type { QuadrantEdits } from "../../drawing/QuadrantHandles";
import { Button } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Choice, Part, Row } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { CalipersHelp } from "./CalipersHelp";

export type Quadrant = Schemas["QuadrantIO"];
/** Changes some fields, as they stand at that moment. */
export type PutQuadrant = (change: (now: Quadrant) => Partial<Quadrant>) => void;

type PartName = keyof NonNullable<Quadrant["sources"]>;
type Source = NonNullable<NonNullable<Quadrant["sources"]>[PartName]>;

/** A quadrant of which nothing is known. */
export const QUADRANT: Quadrant = {
  first_x: "",
  first_y: "",
  apart: "",
  swing_low: "",
  swing_high: "",
  boss_first: "",
  boss_stud: "",
  boss_last: "",
  gap: "0.5",
  studs: "",
  slots: [],
  cover: "",
  goes_on: "",
  not_on: "",
  sources: {},
};

const NO_COVER = "none";

/** What is known of where shafts, slots and cover are; `names` is what this machine calls them. */
export function QuadrantFields(props: {
  quadrant: Quadrant;
  put: PutQuadrant;
  wrong: (field: string) => string | undefined;
  names: { first: string; last: string; carrier: string };
}) {
  const { quadrant, put, wrong, names } = props;
  const text = (name: keyof Quadrant & string, label: string, example?: string) => (
    <TextField
      label={label}
      value={String(quadrant[name] ?? "")}
      onChange={(value) => put(() => ({ [name]: value }))}
      example={example}
      problem={wrong(name)}
      numeric={!["cover", "goes_on", "not_on"].includes(name)}
    />
  );
  const sourceOf = (part: PartName) => (
    <Choice<Source>
      label={`Source of ${PARTS[part]}`}
      value={quadrant.sources?.[part] ?? "stated"}
      options={[
        ["stated", "from papers"],
        ["measured", "measured"],
        ["guessed", "a guess"],
      ]}
      change={(source) => put((now) => ({ sources: { ...now.sources, [part]: source } }))}
    />
  );
  const slots = quadrant.slots ?? [];
  const last = names.last;
  return (
    <>
      <p className="text-[14px] text-soft">
        Leave empty what you do not know. Trains are then listed with “room not checked”. Each part
        you add makes the answers say more.
      </p>
      <CalipersHelp
        names={names}
        open={!quadrant.apart && !quadrant.first_x}
        take={(taken) =>
          put((now) => ({
            // A direction that is on record stays; where the reading differs from it, both are told.
            ...(taken.first_x
              ? { first_x: taken.first_x, first_y: taken.first_y, apart: "" }
              : { apart: taken.apart }),
            ...(taken.nearest && taken.farthest
              ? {
                  slots: [
                    { offset: "0", nearest: taken.nearest, farthest: taken.farthest },
                    ...(now.slots ?? []).slice(1),
                  ],
                }
              : {}),
            sources: {
              ...now.sources,
              shafts: "measured",
              ...(taken.farthest ? { slots: "measured" as const } : {}),
            },
          }))
        }
      />
      <Part title="Shafts" note={`Middle to middle, in mm, seen from the gear end.`}>
        <Row>
          {text("apart", `From ${names.first} to ${last}`)}
          {sourceOf("shafts")}
        </Row>
        <p className="text-[14px] text-soft">
          Or where the {names.first} stands, seen from the {last}:
        </p>
        <Row>
          {text("first_x", "To the right")}
          {text("first_y", "Up")}
        </Row>
      </Part>
      <Part
        title="Slots and studs"
        note={`How near to the ${last} and how far from it a stud can stand.`}
      >
        {slots.map((slot, n) => (
          <div key={n}>
            <Row>
              {(["offset", "nearest", "farthest"] as const).map((name) => (
                <TextField
                  key={name}
                  label={`Slot ${"ABCD"[n]}: ${name === "offset" ? "from A, °" : name}`}
                  value={slot[name] ?? ""}
                  onChange={(value) =>
                    put((now) => ({
                      slots: now.slots!.map((s, k) => (k === n ? { ...s, [name]: value } : s)),
                    }))
                  }
                  numeric
                />
              ))}
              <Button
                look="quiet"
                className="self-end"
                aria-label={`Delete slot ${"ABCD"[n]}`}
                onClick={() => put((now) => ({ slots: now.slots!.filter((_, k) => k !== n) }))}
              >
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
        {slots.length < 4 && (
          <Button
            onClick={() =>
              put((now) => ({
                slots: [
                  ...(now.slots ?? []),
                  { offset: slots.length ? "" : "0", nearest: "", farthest: "" },
                ],
              }))
            }
          >
            Add a slot
          </Button>
        )}
        {wrong("slots") && <p className="text-[14px] text-oxide">{wrong("slots")}</p>}
        <Row>
          {text("studs", "Studs")}
          {sourceOf("slots")}
        </Row>
      </Part>
      <Part
        title="Swing"
        note="Directions of slot A at its two stops, in degrees from level right."
      >
        <Row>
          {text("swing_low", "Swing from, °")}
          {text("swing_high", "to, °")}
          {sourceOf("swing")}
        </Row>
      </Part>
      <Part
        title="Collars"
        note="Half the diameter of what sticks out beside a wheel there, in mm."
      >
        <Row>
          {text("boss_first", capital(names.first))}
          {text("boss_stud", "Stud")}
          {text("boss_last", capital(last))}
        </Row>
        <Row>
          {text("gap", "Least gap wanted")}
          {sourceOf("collars")}
        </Row>
      </Part>
      <Part title="Cover" note={`Its corners, to the right and up from the ${last}, in mm.`}>
        <Checkbox
          label="There is no cover"
          ticked={quadrant.cover?.trim() === NO_COVER}
          change={(none) => put(() => ({ cover: none ? NO_COVER : "" }))}
        />
        {quadrant.cover?.trim() !== NO_COVER && (
          <>
            {text("cover", "Corners", "-150 -110, 180 -110, 180 280, -150 280")}
            <Row>{sourceOf("cover")}</Row>
          </>
        )}
      </Part>
      <Part
        title="Trains you know"
        note="Two that go on and one that does not tell much where nothing is measured. Trains with one stud, with commas between."
      >
        {text("goes_on", "Go on", "20/65*40/50, 30/60*50/70")}
        {text("not_on", "Do not go on", "20/40*70/90")}
      </Part>
    </>
  );
}

const PARTS: Record<PartName, string> = {
  shafts: "distance",
  direction: "direction",
  slots: "slots",
  swing: "swing",
  collars: "collars",
  cover: "cover",
  studs: "studs",
};

function capital(text: string): string {
  return text[0]!.toUpperCase() + text.slice(1);
}

/** What dragging and arrow keys in the drawing change in the fields. */
export function useQuadrantEdits(
  quadrant: Quadrant,
  put: PutQuadrant,
  drawing: Drawing | null | undefined,
): QuadrantEdits {
  return useMemo((): QuadrantEdits => {
    const known = quadrant.swing_low?.trim() && quadrant.swing_high?.trim();
    const swing: [number, number] | null = known
      ? [Number(quadrant.swing_low) || 0, Number(quadrant.swing_high) || 0]
      : null;
    return {
      swing,
      moveFirst: (x, y) => put(() => ({ first_x: figure(x), first_y: figure(y), apart: "" })),
      moveSwing: (end, angle) => {
        // An angle just below the one of a full turn is read as a little less than none.
        const degrees = String(Math.round(swing && angle < swing[0] - 180 ? angle + 360 : angle));
        put(() => (end ? { swing_high: degrees } : { swing_low: degrees }));
      },
      moveSlot: (slot, end, distance, angle) => {
        const first = ((drawing?.slots[0]?.angle_rad ?? 0) * 180) / Math.PI;
        const turned = { offset: String(Math.round(angle - first)) };
        put((now) => ({
          slots: now.slots?.map((s, k) =>
            k === slot ? { ...s, ...(slot > 0 && turned), [end]: figure(distance) } : s,
          ),
        }));
      },
      nudgeFirst: (dx, dy) =>
        put((now) => {
          // Where only the distance is known, it moves from where it is drawn.
          const drawn = drawing?.shafts[0];
          const [x, y] = now.first_x?.trim()
            ? [now.first_x, now.first_y]
            : [figure(drawn?.x_mm ?? 0), figure(drawn?.y_mm ?? 0)];
          return { first_x: more(x, dx), first_y: more(y, dy), apart: "" };
        }),
      nudgeSlot: (slot, end, by) =>
        put((now) => ({
          slots: now.slots?.map((s, k) => (k === slot ? { ...s, [end]: more(s[end], by) } : s)),
        })),
      nudgeSwing: (end, by) =>
        put((now) =>
          end ? { swing_high: more(now.swing_high, by) } : { swing_low: more(now.swing_low, by) },
        ),
      moveCorner: (corner, x, y) => {
        const corners =
          drawing?.cover?.map((p, n) => (n === corner ? { x_mm: x, y_mm: y } : p)) ?? [];
        put(() => ({
          cover: corners.map((p) => `${figure(p.x_mm)} ${figure(p.y_mm)}`).join(", "),
        }));
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
