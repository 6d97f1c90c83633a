import { useState } from "react";

import { refusedAt } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import {
  type AtTheMachine as Readings,
  usePlunge,
  useRunout,
  type WheelAsk,
} from "../../api/wheel";
import { usePreferences } from "../../app/preferences";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { MM_PER_INCH } from "../../drawing/paper";
import { Stale } from "../../kit/Stale";
import { Row } from "../../kit/Form";
import { Strong } from "../../kit/Strong";
import { TextField } from "../../kit/TextField";

/** With the blank on the arbor: how deep from touching, how much more after a measured tooth, whether it runs true. */
export function AtTheMachine({ wheel, tip }: { wheel: WheelAsk; tip: number }) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState<Readings>({ blank: "", span: "", pins: "", dial: "" });
  const [reading, setReading] = useState("");
  const put = (changes: Partial<Readings>) => setTyped((now) => ({ ...now, ...changes }));
  const plunge = usePlunge(wheel, useDebouncedValue(typed, 200), units);
  const runout = useRunout(wheel, useDebouncedValue(reading, 200), units);
  const { data: answer, ...aged } = useLastGood(plunge, JSON.stringify([wheel, units]));
  const wrong = refusedAt(plunge.error);
  return (
    <section aria-label="How deep now" className="border-2 border-brass-line bg-paper p-3">
      <h2 className="font-bold">How deep now?</h2>
      <div className="mt-1 flex flex-col gap-2">
        <Row>
          <TextField
            label="Blank as turned"
            value={typed.blank}
            onChange={(blank) => put({ blank })}
            example={units === "mm" ? tip.toFixed(2) : (tip / MM_PER_INCH).toFixed(4)}
            problem={wrong("blank")}
            numeric
          />
          <TextField
            label="One dial division"
            value={typed.dial}
            onChange={(dial) => put({ dial })}
            example={units === "mm" ? "0.02" : "0.001"}
            problem={wrong("dial")}
            numeric
          />
        </Row>
        <Row>
          <TextField
            label="Span measured"
            value={typed.span}
            onChange={(span) => put({ span, pins: "" })}
            example={units}
            problem={wrong("span")}
            numeric
          />
          <TextField
            label="or over pins"
            value={typed.pins}
            onChange={(pins) => put({ pins, span: "" })}
            example={units}
            problem={wrong("pins")}
            numeric
          />
        </Row>
      </div>
      <Stale {...aged} note>
        <div role="status" className="mt-2">
          {answer?.texts.map((text) => (
            <p key={text} className="mt-1">
              <Strong text={text} />
            </p>
          ))}
        </div>
      </Stale>
      <div className="mt-2 border-t border-line pt-2">
        <TextField
          label="Indicator on the blank’s rim, in all"
          value={reading}
          onChange={setReading}
          example={units === "mm" ? "0.05" : "0.002"}
          problem={refusedAt(runout.error)("reading") ?? refusedAt(runout.error)("runout")}
          numeric
        />
        {reading.trim() &&
          runout.data?.texts.map((text) => (
            <p key={text} role="status" className="mt-1 text-lesser">
              {text}
            </p>
          ))}
      </div>
    </section>
  );
}
