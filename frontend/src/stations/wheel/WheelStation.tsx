import { useState } from "react";
import { Link } from "react-router";

import { refusedAt, type Schemas } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import { useWheel, type WheelAsk, wheelFile, type WheelSizes } from "../../api/wheel";
import { useFamilies } from "../../api/rack";
import { useAddress } from "../../app/address";
import { usePreferences } from "../../app/preferences";
import { StartJob } from "../../planning/MakeLink";
import { Callout } from "../../kit/Callout";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { FormDrawing } from "../../drawing/FormDrawing";
import { useSize } from "../../drawing/useSize";
import { type WheelMeasure, WheelDrawing } from "../../drawing/WheelDrawing";
import { Stale } from "../../kit/Stale";
import { buttonLook } from "../../kit/Button";
import { Choice, Row } from "../../kit/Form";
import { Failure } from "../../app/Notice";
import { FamilySelect } from "../../kit/FamilySelect";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";
import { AtTheMachine } from "./AtTheMachine";

const FIELDS = ["angle", "shift", "depth", "over", "pin", "mates"] as const;

/** A wheel to be made: every figure before metal is cut, its true form, how deep now. */
export default function WheelStation() {
  const { units } = usePreferences();
  const [search, put] = useAddress();
  const set = (name: string, value: string) => put({ [name]: value });
  const typed = (name: string) => search.get(name) ?? "";
  const number = (name: string) => (/^\d+$/.test(typed(name)) ? Number(typed(name)) : undefined);
  const request: WheelAsk = {
    ask: typed("ask") || "wheel 57",
    family: number("family"),
    angle: typed("angle"),
    shift: typed("shift"),
    depth: typed("depth"),
    over: typed("over"),
    pin: typed("pin"),
    mates: typed("mates"),
    material: (typed("material") || "cast iron") as WheelAsk["material"],
  };
  const settled = useDebouncedValue(request, 200);
  const wheel = useWheel(settled, units);
  const wrong = refusedAt(wheel.error);
  const { data: sizes, ...aged } = useLastGood(wheel, units);
  return (
    <div className="grid h-full grid-cols-[248px_minmax(0,1fr)_344px] tall:h-auto tall:grid-cols-1">
      <section
        aria-label="What wheel"
        className="min-h-0 overflow-y-auto border-r border-line p-4 tall:order-last tall:border-t tall:border-r-0"
      >
        <Asking typed={typed} set={set} wrong={wrong} sizes={sizes} />
      </section>
      <section aria-label="The wheel" className="flex min-h-0 min-w-0 flex-col tall:h-[720px]">
        {wheel.error && !FIELDS.some(wrong) && (
          <div className="p-4">
            <Failure error={wheel.error} retry={() => void wheel.refetch()}>
              <p>{wrong("ask")?.replace(wheel.error.message, "")}</p>
            </Failure>
          </div>
        )}
        {sizes && (
          <Stale
            {...aged}
            note
            className="flex min-h-0 flex-1 flex-col *:first:flex *:first:flex-col"
          >
            <Drawn wheel={sizes} request={settled} />
          </Stale>
        )}
      </section>
      <section
        aria-label="Figures"
        className="min-h-0 overflow-y-auto border-l border-line p-4 tall:border-t tall:border-l-0"
      >
        {sizes && (
          <Stale {...aged}>
            {sizes.remarks.map((remark) => (
              <Callout key={remark} tone="note" as="p" small className="mb-2">
                {remark}
              </Callout>
            ))}
            <StartJob
              of={{
                ask: madeAsk(settled),
                family: settled.family ? String(settled.family) : "",
              }}
              className={`${buttonLook("main")} mb-3 w-full`}
            >
              Make it: a job
            </StartJob>
            {(settled.shift.trim() || settled.depth.trim()) && (
              <p className="mb-3 text-fine text-soft">
                The job is of a wheel without shift, at the cutter’s depth. Type other depths there
                as its passes.
              </p>
            )}
            <AtTheMachine wheel={settled} tip={2 * sizes.outline.tip_radius_mm} />
            {sizes.groups.map((group) => (
              <Group key={group.head} group={group} />
            ))}
            <h2 className="mt-4 font-bold">Depth by other schools</h2>
            <dl>
              {sizes.depths.map((depth) => (
                <div key={depth.school} className="border-t border-line py-1.5">
                  <dt className="flex justify-between gap-3">
                    <span>{depth.name}</span>
                    <b className="font-mono">{depth.text}</b>
                  </dt>
                  <dd className="text-fine text-soft">{depth.note}</dd>
                </div>
              ))}
            </dl>
          </Stale>
        )}
      </section>
    </div>
  );
}

/** What may be said beside the tooth number. */
function Asking({
  typed,
  set,
  wrong,
  sizes,
}: {
  typed: (name: string) => string;
  set: (name: string, value: string) => void;
  wrong: (field: string) => string | undefined;
  sizes?: WheelSizes;
}) {
  const families = useFamilies();
  const field = (
    name: (typeof FIELDS)[number],
    label: string,
    example: string,
    numeric = false,
  ) => (
    <TextField
      label={label}
      value={typed(name)}
      onChange={(value) => set(name, value)}
      example={example}
      problem={wrong(name)}
      numeric={numeric}
    />
  );
  return (
    <div className="flex flex-col gap-2.5">
      <h1 className="text-heading font-bold">{sizes?.title ?? "A wheel to be made"}</h1>
      <FamilySelect
        label="For the wheels of"
        none={sizes?.family == null ? (sizes?.family_text ?? "…") : undefined}
        families={families.data}
        value={sizes?.family}
        change={(family) => set("family", String(family ?? ""))}
        problem={wrong("family")}
      />
      {sizes && sizes.family === null && field("angle", "Pressure angle, °", "20", true)}
      {field("mates", "It runs with", "24 96")}
      <Row>
        {field(
          "shift",
          "Profile shift",
          sizes && sizes.helping_shift > 0.005 ? sizes.helping_shift.toFixed(2) : "0",
          true,
        )}
        {field("depth", "Whole depth", "2.157/P")}
      </Row>
      <Row>
        {field("over", "Span over", sizes ? String(sizes.measure.over) : "", true)}
        {field("pin", "Pins of", "usual")}
      </Row>
      <Choice
        label="Material, for its weight"
        value={(typed("material") || "cast iron") as WheelAsk["material"]}
        options={(["cast iron", "steel", "brass", "aluminium", "acetal"] as const).map((m) => [
          m,
          m,
        ])}
        change={(material) => set("material", material)}
      />
      {sizes && (
        <Link
          className={buttonLook("main")}
          to={`/dividing?ask=${encodeURIComponent(`divide ${sizes.teeth}`)}`}
        >
          Divide {sizes.teeth}
        </Link>
      )}
    </div>
  );
}

/** The first figures large, the drawing beneath, the files. */
function Drawn({ wheel, request }: { wheel: WheelSizes; request: WheelAsk }) {
  const { units } = usePreferences();
  const [chosen, setShown] = useState<WheelMeasure | "form">("span");
  // Too few teeth for any cutter: there is no form to show.
  const shown = chosen === "form" && !wheel.form ? "span" : chosen;
  const [near, setNear] = useState(0);
  const [paper, size] = useSize<HTMLDivElement>();
  return (
    <>
      <dl className="grid grid-cols-[auto_auto_1fr] border-b border-line phone:grid-cols-1">
        {wheel.hero.map((line) => (
          <div key={line.label} className="border-r border-line px-3 py-2 last:border-r-0">
            <dt className="text-fine text-soft">{line.label}</dt>
            <dd className="font-mono text-heading leading-tight font-bold whitespace-nowrap">
              {line.text}
            </dd>
          </div>
        ))}
      </dl>
      <div className="flex flex-wrap items-center gap-3 border-b border-line p-2">
        <Segmented
          label="What is shown"
          value={shown}
          options={[
            ["span", "Span"],
            ["pins", "Pins"],
            ["chord", "Chord"],
            ...(wheel.form
              ? ([["form", "Cutter’s form"]] as [WheelMeasure | "form", string][])
              : []),
          ]}
          onChange={setShown}
        />
        {shown !== "form" && (
          <label className="flex min-h-11 min-w-36 flex-1 items-center gap-2 text-fine text-soft">
            Zoom
            <input
              type="range"
              min={0}
              max={100}
              value={near}
              onChange={(e) => setNear(Number(e.target.value))}
              className="h-11 min-w-24 flex-1 accent-enamel"
            />
          </label>
        )}
      </div>
      <div ref={paper} className="relative min-h-0 flex-1 overflow-hidden bg-paper">
        {size.width > 0 && (
          <div className="absolute inset-0">
            {shown === "form" ? (
              <FormDrawing wheel={wheel} width={size.width} height={size.height} />
            ) : (
              <WheelDrawing
                wheel={wheel}
                shown={shown}
                near={near / 100}
                width={size.width}
                height={size.height}
              />
            )}
          </div>
        )}
      </div>
      <div className="flex items-center gap-2 border-t border-line p-2 text-lesser">
        <span className="px-2 text-soft">True size:</span>
        {(["pdf", "dxf", "svg"] as const).map((kind) => (
          <a key={kind} className={buttonLook()} href={wheelFile(request, kind, units)} download>
            {kind.toUpperCase()}
          </a>
        ))}
      </div>
    </>
  );
}

function Group({ group }: { group: Schemas["GroupOut"] }) {
  return (
    <section aria-label={group.head} className="mt-4">
      <h2 className="font-bold">{group.head}</h2>
      <dl>
        {group.lines.map((line) => (
          <div key={line.label} className="border-t border-line py-1.5">
            <dt className="text-fine text-soft">{line.label}</dt>
            <dd className="font-bold">{line.text}</dd>
            {line.note && <dd className="text-fine text-soft">{line.note}</dd>}
          </div>
        ))}
      </dl>
    </section>
  );
}

const PITCH = /\b(?:m|mod|module|dp)\s*\d|\d\s*(?:dp|cp)\b/i;

/** The same wheel to be made; a pressure angle that was typed for a pitch in the ask goes along. */
function madeAsk({ ask, angle }: WheelAsk): string {
  const made = ask.replace(/^\s*(wheel|gear)\b/i, "make");
  const typed = angle.trim().replace(/°$/, "");
  const counts = PITCH.test(ask) && !/°|\b(?:deg|for|on)\b/i.test(ask);
  return typed && counts ? `${made} ${typed}°` : made;
}
