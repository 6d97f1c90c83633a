import { useContext, useMemo } from "react";
import { useFieldArray, useWatch } from "react-hook-form";

import type { Drawing } from "../../api/client";
import type { QuadrantEdits } from "../../drawing/QuadrantHandles";
import { Button } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Choice, Part, Row } from "../../kit/Form";
import { FormText, Problems } from "../../kit/FormFields";
import { CalipersHelp } from "./CalipersHelp";
import { inside, type Quadrant, usePutQuadrant } from "./recordForm";

type Sources = NonNullable<Quadrant["sources"]>;
type Slot = NonNullable<Quadrant["slots"]>[number];

const LONG = ["cover", "goes_on", "not_on"];
const NO_COVER = "none";
const MOST_SLOTS = 4;

/** What is known of where shafts, slots and cover are; `part` is the quadrant's place in the record, `names` is what
 * this machine calls its parts. */
export function QuadrantFields(props: {
  part: string;
  names: { first: string; last: string; carrier: string };
}) {
  const { part, names } = props;
  const put = usePutQuadrant(part);
  const wrong = useContext(Problems);
  const [apart, firstX, cover] = useWatch({
    name: [inside(part, "apart"), inside(part, "first_x"), inside(part, "cover")],
  }) as (string | undefined)[];
  const slots = useFieldArray({ name: inside(part, "slots") });
  const text = (field: keyof Quadrant & string, label: string, example?: string) => (
    <FormText
      name={inside(part, field)}
      label={label}
      example={example}
      numeric={!LONG.includes(field)}
      long={LONG.includes(field)}
    />
  );
  const sources = (useWatch({ name: inside(part, "sources") }) ?? {}) as Sources;
  const sourceOf = (of: keyof Sources) => (
    <Choice
      label={`Source of ${PARTS[of]}`}
      value={sources[of] ?? "stated"}
      options={[
        ["stated", "from papers"],
        ["measured", "measured"],
        ["guessed", "a guess"],
      ]}
      change={(source) => put((now) => ({ sources: { ...now.sources, [of]: source } }))}
    />
  );
  const last = names.last;
  return (
    <>
      <p className="text-fine text-soft">
        Leave empty what you do not know. Trains are then listed with “room not checked”. Each part
        you add makes the answers say more.
      </p>
      <CalipersHelp
        names={names}
        open={!apart && !firstX}
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
      <Part title="Shafts" note={`Centre distances in mm, seen from the gear end.`}>
        <Row>
          {text("apart", `From ${names.first} to ${last}`)}
          {sourceOf("shafts")}
        </Row>
        <p className="text-fine text-soft">
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
        {slots.fields.map((slot, n) => (
          <SlotFields
            key={slot.id}
            part={inside(part, `slots.${n}`)}
            letter={"ABCD"[n]!}
            remove={() => slots.remove(n)}
          />
        ))}
        {slots.fields.length < MOST_SLOTS && (
          <Button
            onClick={() =>
              slots.append(
                { offset: slots.fields.length ? "" : "0", nearest: "", farthest: "" },
                { shouldFocus: false },
              )
            }
          >
            Add a slot
          </Button>
        )}
        <Alert text={wrong(inside(part, "slots"))} />
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
        </Row>
        <Row>{sourceOf("swing")}</Row>
      </Part>
      <Part
        title="Collars"
        note="Diameter of what sticks out beside a wheel there: nut, collar or end of the shaft."
      >
        <Row>
          {text("collar_first", capital(names.first))}
          {text("collar_stud", "Stud")}
          {text("collar_last", capital(last))}
        </Row>
        <Row>
          {text("gap", "Least gap wanted")}
          {sourceOf("collars")}
        </Row>
      </Part>
      <Part title="Cover" note={`Its corners, to the right and up from the ${last}, in mm.`}>
        <Checkbox
          label="There is no cover"
          ticked={cover?.trim() === NO_COVER}
          change={(none) => put(() => ({ cover: none ? NO_COVER : "" }))}
        />
        {cover?.trim() !== NO_COVER && (
          <>
            {text("cover", "Corners", "-150 -110, 180 -110, 180 280, -150 280")}
            <Row>{sourceOf("cover")}</Row>
          </>
        )}
      </Part>
      <Part
        title="Trains you know"
        note="Two that fit and one that does not tell much where nothing is measured. Trains with one stud, with commas between."
      >
        {text("goes_on", "Go on", "20/65*40/50, 30/60*50/70")}
        {text("not_on", "Do not fit", "20/40*70/90")}
      </Part>
    </>
  );
}

/** How near and how far a stud stands in one slot; all but the first say how far they are turned from it. */
function SlotFields({
  part,
  letter,
  remove,
}: {
  part: string;
  letter: string;
  remove: () => void;
}) {
  const wrong = useContext(Problems)(part);
  // The others are told from slot A: it has nothing to say there, unless something is typed.
  const offset = String(useWatch({ name: inside(part, "offset") }) ?? "").trim();
  const first = letter === "A" && (offset === "" || offset === "0");
  const text = (field: keyof Slot & string, label: string) => (
    <FormText
      name={inside(part, field)}
      label={
        <>
          <span className="sr-only">Slot {letter}: </span>
          {label}
        </>
      }
      numeric
    />
  );
  return (
    <div>
      <p aria-hidden className="text-fine font-bold">
        Slot {letter}
      </p>
      <Row>
        {!first && text("offset", "from slot A, °")}
        {text("nearest", "nearest")}
        {text("farthest", "farthest")}
        <Button
          look="quiet"
          className="self-end"
          aria-label={`Delete slot ${letter}`}
          onClick={remove}
        >
          ✕
        </Button>
      </Row>
      <Alert text={wrong} />
    </div>
  );
}

function Alert({ text }: { text: string | undefined }) {
  return text ? (
    <p role="alert" className="text-fine text-oxide">
      {text}
    </p>
  ) : null;
}

const PARTS: Record<keyof Sources, string> = {
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

/** What dragging and arrow keys in the drawing change in the fields of the quadrant at `part`. */
export function useQuadrantEdits(part: string, drawing: Drawing | null | undefined): QuadrantEdits {
  const put = usePutQuadrant(part);
  const [low, high] = useWatch({
    name: [inside(part, "swing_low"), inside(part, "swing_high")],
  }) as (string | undefined)[];
  return useMemo((): QuadrantEdits => {
    const known = low?.trim() && high?.trim();
    const swing: [number, number] | null = known ? [Number(low) || 0, Number(high) || 0] : null;
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
  }, [drawing, low, high, put]);
}

function figure(mm: number): string {
  return String(Math.round(mm * 10) / 10);
}

function more(typed: string | undefined, by: number): string {
  return figure((Number(typed) || 0) + by);
}
