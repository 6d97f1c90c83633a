import { useState } from "react";

import { type Family, Refusal, refusedAt, type Schemas } from "../../api/client";
import { NO_READINGS, type Readings, useIdentify } from "../../api/rack";
import { usePreferences } from "../../app/preferences";
import { MeasureDrawing } from "../../drawing/MeasureDrawing";
import { Callout } from "../../kit/Callout";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { Disclosure } from "../../kit/Disclosure";
import { Checkbox } from "../../kit/Checkbox";
import { TextField } from "../../kit/TextField";

type Identity = Schemas["IdentityOut"];

/** What one wheel is: readings in, likelihoods out, what to measure next and how; and from there into its family. */
export function IdentifyPanel(props: {
  /** What is known of it so far. */
  readings: Partial<Readings>;
  /** The wheel of the rack that the readings are kept with; null for none. */
  keep: number | null;
  families: Family[];
  becomes: (family: Family, identity: Identity) => void;
  newFamily?: (identity: Identity) => void;
}) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState<Readings>({ ...NO_READINGS, ...props.readings });
  const identify = useIdentify(units);
  const put = (changes: Partial<Readings>) => setTyped({ ...typed, ...changes });
  const problem =
    identify.error instanceof Refusal ? identify.error.problem.errors?.[0] : undefined;
  const wrong = refusedAt(identify.error);
  const answer = identify.data;
  // Until somebody says over how many, a span is taken over as many as were proposed.
  const over = typed.span_teeth || String(answer?.next?.over || answer?.span_teeth || "");
  const odd = /[13579]$/.test(typed.teeth.trim());
  return (
    <div className="flex flex-col gap-3">
      <h3 className="font-bold">What is it?</h3>
      <form
        className="flex flex-col gap-2.5"
        onSubmit={(event) => {
          event.preventDefault();
          const readings = { ...typed, span_teeth: typed.span || typed.span_next ? over : "" };
          identify.mutate({ wheels: [readings], keep: props.keep });
        }}
      >
        <div className="flex gap-2">
          <TextField
            label="Teeth"
            className="max-w-20"
            value={typed.teeth}
            onChange={(teeth) => put({ teeth })}
            problem={wrong("teeth")}
            numeric
          />
          <TextField
            label={
              odd && typed.tip_method === "caliper" ? "Over the tips, flat jaws" : "Over the tips"
            }
            value={typed.tip_diameter ?? ""}
            onChange={(tip_diameter) => put({ tip_diameter })}
            example="60.9 mm"
            problem={wrong("tip_diameter")}
          />
        </div>
        <div className="flex gap-2">
          <TextField
            label="Span over"
            className="max-w-20"
            value={over}
            onChange={(span_teeth) => put({ span_teeth })}
            example="teeth"
            problem={wrong("span_teeth")}
            numeric
          />
          <TextField
            label="Span"
            value={typed.span ?? ""}
            onChange={(span) => put({ span })}
            problem={wrong("span")}
          />
          <TextField
            label="one more"
            value={typed.span_next ?? ""}
            onChange={(span_next) => put({ span_next })}
            problem={wrong("span_next")}
          />
        </div>
        <div className="flex gap-2">
          <TextField
            label="Pins of"
            value={typed.pin ?? ""}
            onChange={(pin) => put({ pin })}
            problem={wrong("pin")}
          />
          <TextField
            label="Over the pins"
            value={typed.over_pins ?? ""}
            onChange={(over_pins) => put({ over_pins })}
            problem={wrong("over_pins")}
          />
          <TextField
            label="Bore"
            value={typed.bore ?? ""}
            onChange={(bore) => put({ bore })}
            problem={wrong("bore")}
          />
        </div>
        <Disclosure title="Other readings">
          <div className="flex flex-col gap-2">
            <Choice
              label="Tips measured with"
              value={typed.tip_method ?? "caliper"}
              options={[
                ["caliper", "caliper, flat jaws"],
                ["micrometer", "micrometer, tip to tip"],
                ["true", "as a true circle"],
              ]}
              change={(tip_method) => put({ tip_method })}
            />
            <TextField
              label="They may be off by"
              value={typed.tip_off ?? ""}
              onChange={(tip_off) => put({ tip_off })}
              example="0.5 mm, where a picture says so"
              problem={wrong("tip_off")}
            />
            <div className="flex gap-2">
              <TextField
                label="Meshed with a"
                value={typed.mate ?? ""}
                onChange={(mate) => put({ mate })}
                example="teeth"
                problem={wrong("mate")}
                numeric
              />
              <TextField
                label="Centres apart"
                value={typed.centres ?? ""}
                onChange={(centres) => put({ centres })}
                problem={wrong("centres")}
              />
              <TextField
                label="Face"
                value={typed.face ?? ""}
                onChange={(face) => put({ face })}
                problem={wrong("face")}
              />
            </div>
            <Checkbox
              label="The tips are worn"
              ticked={typed.worn ?? false}
              change={(worn) => put({ worn })}
            />
          </div>
        </Disclosure>
        <Button type="submit" look="main">
          Find out
        </Button>
        {(wrong("measurements") || (identify.error && !problem)) && (
          <p role="alert" className="text-oxide">
            {wrong("measurements") ?? identify.error?.message}
          </p>
        )}
      </form>
      {answer && (
        <div role="status" className="flex flex-col gap-2">
          <MeasureDrawing outline={answer.outline} next={answer.next} />
          <Callout tone="hint" as="p" small>
            {answer.next_text}
          </Callout>
          <ol>
            {answer.identities.slice(0, 4).map((identity, n) => (
              <Likely
                key={n}
                identity={identity}
                first={n === 0}
                families={props.families}
                becomes={props.becomes}
                newFamily={props.newFamily}
              />
            ))}
          </ol>
        </div>
      )}
    </div>
  );
}

export function Likely(props: {
  identity: Identity;
  first: boolean;
  families: Family[];
  becomes: (family: Family, identity: Identity) => void;
  newFamily?: (identity: Identity) => void;
  several?: boolean;
}) {
  const { identity, first } = props;
  const families = props.families.filter((f) => identity.families.includes(f.id));
  return (
    <li className="border-t border-line py-2">
      <div className="flex items-baseline justify-between gap-2">
        <b className={first ? "text-heading" : ""}>{identity.text}</b>
        <span className="font-mono">{identity.likelihood}</span>
      </div>
      <div className="mt-1 h-2 border border-steel-2 bg-paper" aria-hidden>
        <div className="h-full bg-blue" style={{ width: `${identity.probability * 100}%` }} />
      </div>
      {first && (
        <>
          {identity.residuals.map((answer) => (
            <p key={answer} className="mt-1 text-fine text-soft">
              {answer}
            </p>
          ))}
          <div className="mt-2 flex flex-wrap gap-2">
            {families.map((family) => (
              <Button key={family.id} onClick={() => props.becomes(family, identity)}>
                {props.several ? "They are of" : "It is of"} {family.name}
              </Button>
            ))}
            {props.newFamily && (
              <Button look="quiet" onClick={() => props.newFamily?.(identity)}>
                A family of {props.several ? "their" : "its"} own
              </Button>
            )}
          </div>
        </>
      )}
    </li>
  );
}
