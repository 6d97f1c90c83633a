import { type HobAsk, type HobFields as Form, useHobFields } from "../../api/hobber";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { useAskFields } from "../../planning/useAskFields";

const HANDS: ["" | "right" | "left", string][] = [
  ["", "spur"],
  ["right", "right-hand"],
  ["left", "left-hand"],
];

/** The wheel in fields, for those who prefer them to the line. Empty fields mean as usual. */
export function HobFields({ ask, take }: { ask: HobAsk; take: (ask: string) => void }) {
  const { units } = usePreferences();
  const fields = useHobFields();
  const { typed, put, wrong, submit } = useAskFields({
    start: filled(ask),
    canonical: ask.canonical,
    question: fields,
    query: (form: Form) => ({ ...form, units }),
    take,
  });
  const text = (name: TextName, label: string, example: string, numeric = true) => (
    <TextField
      label={label}
      value={typed[name] ?? ""}
      onChange={(value) => put({ [name]: value })}
      example={example}
      problem={wrong(name)}
      numeric={numeric}
    />
  );
  const named = [...NAMES, "hand"].some((name) => wrong(name));
  return (
    <form className="flex flex-col gap-2 pb-2" onSubmit={submit}>
      <div className="flex gap-2">
        {text("teeth", "Teeth", "37")}
        {text("pitch", "Module or DP", "m2, 12dp", false)}
      </div>
      <div className="flex gap-2">
        {text("helix", "Helix, °", "30")}
        <Choice
          label="Hand"
          value={typed.hand ?? ""}
          options={HANDS}
          change={(hand) => put({ hand })}
        />
      </div>
      {wrong("hand") && (
        <p role="alert" className="text-fine text-oxide">
          {wrong("hand")}
        </p>
      )}
      <div className="flex gap-2">
        {text("face", "Face", "20 mm")}
        {text("mate", "Runs with", "24 teeth")}
      </div>
      <div className="flex gap-2">
        {text("hob_diameter", "Hob diameter", "63 mm")}
        {text("starts", "Hob starts", "1")}
      </div>
      <div className="flex gap-2">
        <Choice
          label="Hob hand"
          value={typed.hob_hand ?? "right"}
          options={[
            ["right", "right"],
            ["left", "left"],
          ]}
          change={(hob_hand) => put({ hob_hand })}
        />
        {text("angle", "Pressure angle, °", "20")}
      </div>
      <div className="flex gap-2">
        {text("feed", "Feed per turn", "1 mm")}
        {text("turns", "Hob, turns/min", "150")}
      </div>
      {text("depth", "Depth engraved on the hob", "4.5 mm")}
      <div className="flex gap-2">
        {text("blanks", "Blanks at once", "1")}
        <Choice
          label="Feed way"
          value={typed.way ?? ""}
          options={[
            ["", "as usual"],
            ["down", "down"],
            ["up", "up"],
          ]}
          change={(way) => put({ way })}
        />
      </div>
      {fields.error && !named && (
        <p role="alert" className="text-oxide">
          {fields.error.message}
        </p>
      )}
      <Button type="submit">Plan this</Button>
    </form>
  );
}

const NAMES = [
  "teeth",
  "pitch",
  "angle",
  "helix",
  "face",
  "starts",
  "hob_diameter",
  "turns",
  "mate",
  "feed",
  "blanks",
  "depth",
] as const;
type TextName = (typeof NAMES)[number];

function filled(ask: HobAsk): Form {
  const texts = Object.fromEntries(NAMES.map((name) => [name, ask[name]])) as Record<
    TextName,
    string
  >;
  return { ...texts, hand: ask.hand, hob_hand: ask.hob_hand, way: ask.way };
}
