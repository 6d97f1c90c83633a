import { useState } from "react";
import { Link } from "react-router";

import { type Drawing, refusedAt } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import { useWays, type Way } from "../../api/dividing";
import { useAddress } from "../../app/address";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { GearsDrawing } from "../../drawing/GearsDrawing";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { useSize } from "../../drawing/useSize";
import { Stale } from "../../kit/Stale";
import { buttonLook } from "../../kit/Button";
import { Failure } from "../../app/Notice";
import { Segmented } from "../../kit/Segmented";
import { Strong } from "../../kit/Strong";
import { TextField } from "../../kit/TextField";
import { MadeBefore } from "../../planning/MadeBefore";
import { Stepping } from "../../planning/Stepping";

/** Divisions as a wheel’s teeth; undefined where no change wheel has this many. */
function wholeTeeth(divisions: number | string | undefined): number | undefined {
  const teeth = Number(divisions);
  return Number.isInteger(teeth) && teeth >= 6 && teeth <= 400 ? teeth : undefined;
}

/** Every way the shop has for a count, and the chosen one with its plate, arms and first moves. */
export default function DividingStation() {
  const { units } = usePreferences();
  const [search, put] = useAddress();
  const ask = search.get("ask") || "divide 57";
  const diameter = search.get("across") ?? "";
  const ways = useWays(ask, useDebouncedValue(diameter, 200), units);
  const { data: answer, ...aged } = useLastGood(ways, units);
  const at = Math.min(Number(search.get("way")) || 0, (answer?.ways.length ?? 1) - 1);
  const chosen = answer?.ways[at];
  const set = (name: string, value: string) => put({ [name]: value });
  const wrong = refusedAt(ways.error);
  return (
    <div className="grid h-full grid-cols-[minmax(320px,400px)_minmax(0,1fr)] tall:h-auto tall:grid-cols-1">
      <section
        aria-label="Ways"
        className="min-h-0 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
      >
        <h1 className="text-heading font-bold">
          {answer ? `${answer.divisions} divisions` : "Dividing"}
        </h1>
        <TextField
          label="Show error at diameter"
          value={diameter}
          onChange={(value) => set("across", value)}
          example={answer?.diameter_text}
          problem={wrong("diameter")}
        />
        {ways.error && !wrong("diameter") && (
          <Failure error={ways.error} retry={() => void ways.refetch()}>
            {wrong("ask") !== ways.error.message && <p>{wrong("ask")}</p>}
          </Failure>
        )}
        {answer && answer.heads === 0 && (
          <p className="mt-3">
            No head or table is entered yet.{" "}
            <Link className="font-bold text-blue underline" to="/machines/new/head">
              Add one
            </Link>
            ; a printed disc serves meanwhile.
          </p>
        )}
        <MadeBefore teeth={wholeTeeth(answer?.divisions)} dividing />
        <Stale {...aged}>
          <ol
            className="mt-3 flex flex-col gap-2 tall:max-h-[470px] tall:overflow-y-auto"
            tabIndex={0}
            aria-label="Ways, the best first"
          >
            {answer?.ways.map((way, n) => (
              <li key={n}>
                <Card way={way} chosen={n === at} choose={() => set("way", n ? String(n) : "")} />
              </li>
            ))}
          </ol>
        </Stale>
      </section>
      {chosen && answer && (
        <Stale {...aged} note className="min-h-0">
          <Chosen
            key={`${answer.divisions} ${chosen.machine} ${chosen.kind} ${chosen.number}`}
            way={chosen}
            divisions={answer.divisions}
          />
        </Stale>
      )}
    </div>
  );
}

function Card({ way, chosen, choose }: { way: Way; chosen: boolean; choose: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={choose}
      className={`block w-full border-2 px-3 py-2 text-left ${chosen ? "border-blue bg-blue-bg" : "border-line bg-paper hover:border-ink"}`}
    >
      <span className="flex items-baseline justify-between gap-2">
        <b>{way.head}</b>
        <span className="text-lesser text-soft">{way.machine_name}</span>
      </span>
      <span className="block font-mono text-large leading-snug">{way.text}</span>
      <span
        className={`block text-lesser ${way.exact && way.goes_on ? "font-bold text-good" : "text-soft"}`}
      >
        {way.accuracy}
      </span>
    </button>
  );
}

function Chosen({ way, divisions }: { way: Way; divisions: number }) {
  const [shown, setShown] = useState<"plate" | "gears">("plate");
  return (
    <section
      aria-label="The chosen way"
      className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(440px,1fr)_auto] overflow-y-auto tall:grid-rows-[620px_auto] phone:grid-rows-[480px_auto]"
    >
      {shown === "gears" && way.gears?.drawing ? (
        <OnTheArm
          gears={way.gears}
          drawing={way.gears.drawing}
          machine={way.machine_name}
          showPlate={() => setShown("plate")}
        />
      ) : way.plate ? (
        <Stepping
          key={`${way.machine} ${way.number} ${divisions}`}
          way={way}
          plate={way.plate}
          divisions={divisions}
        >
          {way.gears?.drawing && <PlateOrGears shown="plate" change={() => setShown("gears")} />}
        </Stepping>
      ) : (
        <NoPlate way={way} divisions={divisions} />
      )}
      <div className="grid grid-cols-2 gap-6 border-t border-line bg-paper p-4 tall:grid-cols-1">
        <div>
          <h2 className="font-bold">Fit</h2>
          {way.fit.map((text) => (
            <p key={text}>
              <Strong text={text} />
            </p>
          ))}
          {way.gears && !way.gears.drawing && <GearsDrawing gears={way.gears} height={110} />}
          {way.others.length > 0 && (
            <p className="mt-1 text-lesser">Or: {way.others.join("; ")}.</p>
          )}
          {way.against.map((text) => (
            <p key={text} className="mt-1 text-lesser text-soft">
              Against it: {text}
            </p>
          ))}
        </div>
        <div>
          <h2 className="font-bold">For every tooth</h2>
          {way.moves.map((text) => (
            <p key={text} className="mb-1">
              <Strong text={text} />
            </p>
          ))}
          <Callout tone="wrong" as="p" small className="mt-2 pl-2">
            Lock the spindle for the cut, free it to index. Cutter stopped while hands are at the
            crank.
          </Callout>
        </div>
      </div>
    </section>
  );
}

/** The gears from spindle to plate as they stand on the head's arm, to scale. */
function OnTheArm({
  gears,
  drawing,
  machine,
  showPlate,
}: {
  gears: NonNullable<Way["gears"]>;
  drawing: Drawing;
  machine: string;
  showPlate: () => void;
}) {
  const [paper, size] = useSize<HTMLDivElement>();
  return (
    <div className="flex min-h-0 flex-col">
      <div ref={paper} className="relative min-h-0 flex-1 bg-paper">
        <div className="absolute inset-0">
          {size.width > 0 && (
            <QuadrantDrawing
              drawing={drawing}
              outlines={gears.outlines}
              machine={machine}
              train={gears.text}
              width={size.width}
              height={size.height}
              turning={false}
            />
          )}
        </div>
      </div>
      <div className="flex items-center gap-2 border-t border-line p-2">
        <PlateOrGears shown="gears" change={showPlate} />
        <p role="status" className="min-w-0 flex-1 text-right">
          {gears.stands}
        </p>
      </div>
    </div>
  );
}

function PlateOrGears({ shown, change }: { shown: "plate" | "gears"; change: () => void }) {
  return (
    <Segmented
      label="What is drawn"
      value={shown}
      options={[
        ["plate", "Plate"],
        ["gears", "Gears"],
      ]}
      onChange={change}
    />
  );
}

function NoPlate({ way, divisions }: { way: Way; divisions: number }) {
  return (
    <div className="grid place-items-center bg-paper p-6 text-center">
      <div>
        <p className="font-mono text-figure font-bold">{way.text}</p>
        <p className="mt-2 text-soft">{way.accuracy}</p>
        {way.kind === "new_plate" && (
          <Link
            className={`${buttonLook("main")} mt-4`}
            to={`/dividing/plate?on=${way.machine}&divisions=${divisions}`}
          >
            Plan the plate
          </Link>
        )}
        {way.kind === "disc" && (
          <Link
            className={`${buttonLook("main")} mt-4`}
            to={`/dividing/disc?divisions=${divisions}`}
          >
            Make the disc
          </Link>
        )}
      </div>
    </div>
  );
}
