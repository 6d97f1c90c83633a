import { Field, Label } from "@headlessui/react";

import { type Ask, Refusal } from "../../api/client";
import { type Fields, useFields } from "../../api/lathe";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Select } from "../../kit/Select";
import { Segmented } from "../../kit/Segmented";
import { Checkbox } from "../../kit/Checkbox";
import { FIELD, TextField } from "../../kit/TextField";
import { useAskFields } from "../../planning/useAskFields";

/** The ask in fields, for those who prefer them to the line. Empty fields mean as usual. */
export function PlainFields({ ask, take }: { ask: Ask; take: (ask: string) => void }) {
  const { units } = usePreferences();
  const fields = useFields();
  const {
    typed,
    put,
    wrong: problem,
    submit,
  } = useAskFields({
    start: filled(ask),
    canonical: ask.canonical,
    question: fields,
    query: (form: Fields) => ({ ...form, ask: ask.canonical, units }),
    take,
  });
  const atAField = fields.error instanceof Refusal && fields.error.problem.errors?.length;
  const elsewhere = fields.error && !atAField ? fields.error.message : undefined;
  const thread = typed.way === "thread";
  const worm = ask.job === "worm";
  return (
    <form className="flex flex-col gap-2 pb-2" onSubmit={submit}>
      <Segmented
        label="Thread or feed"
        className="text-fine"
        value={typed.way ?? "thread"}
        options={[
          ["thread", "Thread"],
          ["along", "Feed along"],
          ["across", "Across"],
        ]}
        onChange={(way) => put({ way })}
      />
      <div className="flex gap-2">
        <TextField
          label={thread ? "Pitch or size" : "Per turn"}
          value={typed.pitch}
          onChange={(pitch) => put({ pitch })}
          example={thread ? "2 mm, 26 tpi" : "0.05 mm"}
          problem={problem("pitch")}
        />
        {thread && (
          <TextField
            label="Starts"
            className="max-w-18"
            value={typed.starts ?? ""}
            onChange={(starts) => put({ starts })}
            example="1"
            problem={problem("starts")}
            numeric
          />
        )}
      </div>
      <Segmented
        label="Hand"
        className="text-fine"
        value={typed.hand ?? "right"}
        options={
          thread
            ? [
                ["right", "Right hand"],
                ["left", "Left hand"],
              ]
            : [
                ["right", "As usual"],
                ["left", "Reversed"],
              ]
        }
        onChange={(hand) => put({ hand })}
      />
      {thread && (
        <>
          <div className="flex gap-2">
            <TextField
              label="Diameter"
              value={typed.diameter ?? ""}
              onChange={(diameter) => put({ diameter })}
              example="14 mm"
              problem={problem("diameter")}
            />
            <TextField
              label={worm ? "Contact" : "Nut length"}
              value={typed.engagement ?? ""}
              onChange={(engagement) => put({ engagement })}
              example={ask.usual_engagement}
              problem={problem("engagement")}
            />
          </div>
          <div className="flex gap-2">
            <TextField
              label={worm ? "Pressure angle" : "Flanks"}
              value={typed.flanks ?? ""}
              onChange={(flanks) => put({ flanks })}
              example={ask.usual_flanks}
              problem={problem("flanks")}
              numeric
            />
            {ask.fit_classes.length > 0 && (
              <Field className="min-w-0 flex-1">
                <Label className="text-fine text-soft">Class of fit</Label>
                <Select
                  value={typed.fit_class}
                  onChange={(e) => put({ fit_class: e.target.value })}
                  className={`${FIELD} font-mono`}
                >
                  <option value="">{ask.fit_classes[0]}, usual</option>
                  {ask.fit_classes.slice(1).map((name) => (
                    <option key={name}>{name}</option>
                  ))}
                </Select>
              </Field>
            )}
          </div>
          {!worm && (
            <Checkbox
              label="Moves or measures a slide"
              ticked={typed.slide ?? false}
              change={(slide) => put({ slide })}
            />
          )}
        </>
      )}
      <TextField
        label="Error allowed, %"
        value={typed.within ?? ""}
        onChange={(within) => put({ within })}
        example="as the job allows"
        problem={problem("within") ?? problem("class") ?? elsewhere}
        numeric
      />
      <Button type="submit">Ask with these</Button>
    </form>
  );
}

function filled(ask: Ask) {
  return {
    way: ask.way,
    pitch: ask.pitch,
    hand: ask.hand,
    starts: ask.starts > 1 ? String(ask.starts) : "",
    diameter: ask.diameter,
    engagement: ask.engagement,
    flanks: ask.flanks,
    fit_class: ask.fit_class,
    slide: ask.job === "slide",
    within: ask.within,
  } satisfies Fields;
}
