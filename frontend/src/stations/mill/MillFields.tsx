import { type HelixAsk, type HelixFields as Form, useHelixFields } from "../../api/mill";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";
import { useAskFields } from "../../planning/useAskFields";

type Of = "wheel" | "lead" | "angle";

// What each kind of ask has fields for; the others are left out of it.
const FIELDS: Record<Of, TextName[]> = {
  wheel: ["teeth", "pitch", "helix", "angle", "face", "mate", "cutter", "within"],
  lead: ["teeth", "lead", "diameter", "face", "within"],
  angle: ["teeth", "helix", "diameter", "face", "within"],
};

/** The wheel or the grooves in fields, for those who prefer them to the line. */
export function MillFields({ ask, take }: { ask: HelixAsk; take: (ask: string) => void }) {
  const { units } = usePreferences();
  const usual: Of = ask.wheel ? "wheel" : ask.stated_lead ? "lead" : "angle";
  const fields = useHelixFields();
  const { typed, put, wrong, submit } = useAskFields({
    start: { ...filled(ask), of: usual },
    canonical: ask.canonical,
    question: fields,
    query: (form: Form & { of: Of }) => ({
      ...Object.fromEntries(FIELDS[form.of].map((name) => [name, form[name] ?? ""])),
      hand: form.hand,
      units,
    }),
    take,
  });
  const { of } = typed;
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
  const named = [...FIELDS[of], "hand"].some((name) => wrong(name));
  return (
    <form className="flex flex-col gap-2 pb-2" onSubmit={submit}>
      <Segmented
        label="What is cut"
        className="text-fine"
        value={of}
        options={[
          ["wheel", "Wheel"],
          ["lead", "Lead"],
          ["angle", "Angle"],
        ]}
        onChange={(next) => {
          put({ of: next });
          fields.reset();
        }}
      />
      {of === "wheel" ? (
        <div className="flex gap-2">
          {text("teeth", "Teeth", "24")}
          {text("pitch", "Module or DP", "m2, 12dp", false)}
        </div>
      ) : (
        <div className="flex gap-2">
          {of === "lead" && text("lead", "Lead", "300 mm, 12 in", false)}
          {text("teeth", "Grooves", "6")}
        </div>
      )}
      <div className="flex gap-2">
        {of !== "lead" && text("helix", "Helix, °", "30")}
        <Choice
          label="Hand"
          value={typed.hand ?? ""}
          options={[
            ["", of === "wheel" ? "not said" : "right-hand"],
            ["right", "right-hand"],
            ["left", "left-hand"],
          ]}
          change={(hand) => put({ hand })}
        />
      </div>
      {wrong("hand") && (
        <p role="alert" className="text-fine text-oxide">
          {wrong("hand")}
        </p>
      )}
      <div className="flex gap-2">
        {of === "wheel"
          ? text("mate", "Runs with", "24 teeth")
          : text("diameter", "Diameter of the work", "20 mm", false)}
        {text("face", of === "wheel" ? "Face" : "Length", "20 mm", false)}
      </div>
      {of === "wheel" && (
        <div className="flex gap-2">
          {text("cutter", "Cutter diameter", "60 mm", false)}
          {text("angle", "Pressure angle, °", "20")}
        </div>
      )}
      {text("within", "Lead may be off by, %", "0.1")}
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
  "lead",
  "diameter",
  "face",
  "mate",
  "cutter",
  "within",
] as const;
type TextName = (typeof NAMES)[number];

function filled(ask: HelixAsk): Form {
  const texts = Object.fromEntries(
    NAMES.map((name) => [name, name === "lead" ? ask.stated_lead : ask[name]]),
  ) as Record<TextName, string>;
  return { ...texts, hand: ask.hand };
}
