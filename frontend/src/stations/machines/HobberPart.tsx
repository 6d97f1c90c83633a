import { useState } from "react";

import { refusedAt } from "../../api/client";
import { useHobConstants } from "../../api/hobbing";
import type { MachineRecord } from "../../api/stores";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Part, Row } from "../../kit/Form";
import { FormChoice, FormText } from "../../kit/FormFields";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";
import { BOX, BoxFields } from "./BoxFields";

type Hobber = NonNullable<MachineRecord["hobber"]>;
export type BoxName = "index" | "feed" | "differential";

export const HOBBER: Hobber = {
  index: "",
  feed: "",
  differential: "",
  swivel: "",
  table: "",
  feeds: "down",
  taken: "after",
  largest: "",
  travel: "",
  between: "",
  boxes: { index: BOX, feed: BOX, differential: BOX },
};

const RIGHT_WAY: Record<BoxName, string> = {
  index: "The table turns as a right-hand hob needs it with",
  feed: "The hob feeds down with",
  differential: "A right-hand wheel comes out with",
};

/** Constants, room and the boxes of a hobber; the box that is open is drawn beside. */
export function HobberPart({ box, setBox }: { box: BoxName; setBox: (box: BoxName) => void }) {
  const named = (field: keyof Hobber & string) => `hobber.${field}`;
  const text = (field: keyof Hobber & string, label: string, example: string, numeric = false) => (
    <FormText
      name={named(field)}
      label={label}
      example={example}
      numeric={numeric}
      long={field === "index"}
    />
  );
  return (
    <>
      <Part
        title="Constants"
        note="From the machine’s manual or plate. Index: ratio of the index train times the teeth, for one start. Where the reversing pair is changed, each constant with its pair and from which count."
      >
        {text("index", "Index constants", "24 with 40/40, 48 from 97 with 48/24")}
        <ConstantHelp />
        <Row>
          {text("feed", "Feed per table turn at 1 : 1", "0.75 mm")}
          {text("differential", "Differential constant", "25/π mm; empty for none")}
        </Row>
        <Row>
          <FormChoice
            name={named("taken")}
            label="Feed is taken"
            options={[
              ["after", "after the differential"],
              ["before", "before the differential"],
            ]}
          />
          <FormChoice
            name={named("feeds")}
            label="Hob feeds"
            options={[
              ["down", "down"],
              ["up", "up"],
              ["both", "down or up"],
            ]}
          />
        </Row>
        <FormChoice
          name={named("table")}
          label="Table turns, seen from above, with a right-hand hob"
          options={[
            ["", "not known"],
            ["anticlockwise", "anticlockwise"],
            ["clockwise", "clockwise"],
          ]}
        />
      </Part>
      <Part title="Room">
        <Row>
          {text("swivel", "Hob head turns, ± °", "45", true)}
          {text("largest", "Largest wheel", "250 mm")}
        </Row>
        <Row>
          {text("travel", "Travel of the hob", "180 mm")}
          {text("between", "Between centres", "120 mm")}
        </Row>
      </Part>
      <Part title="Boxes" note="All boxes take wheels from the one set.">
        <Segmented
          label="Box"
          value={box}
          options={[
            ["index", "Index"],
            ["feed", "Feed"],
            ["differential", "Differential"],
          ]}
          onChange={setBox}
        />
        <BoxFields
          key={box}
          part={`${named("boxes")}.${box}`}
          rightWay={RIGHT_WAY[box]}
          lever="A lever or reversing gear turns it the other way"
          names={{ first: "drive shaft", last: `${box} shaft`, carrier: `${box} quadrant` }}
        />
      </Part>
    </>
  );
}

/** The index constant of a machine without papers, from a known train and counted turns. */
function ConstantHelp() {
  const [typed, setTyped] = useState({ train: "", hob_turns: "", table_turns: "1", off: "" });
  const found = useHobConstants();
  const wrong = refusedAt(found.error);
  const field = (name: keyof typeof typed, label: string, example: string) => (
    <TextField
      label={label}
      value={typed[name]}
      onChange={(value) => {
        setTyped({ ...typed, [name]: value });
        found.reset();
      }}
      example={example}
      problem={wrong(name)}
    />
  );
  return (
    <Disclosure title="No papers? Find the constant">
      <p className="text-[14px] text-soft">
        With a train on, turn the hob by hand and count its turns while the table goes round.
      </p>
      <div className="mt-1 flex gap-2">
        {field("train", "Index train that is on", "48/37*40/80")}
        {field("hob_turns", "Turns of the hob", "37")}
      </div>
      <div className="mt-1 flex gap-2">
        {field("table_turns", "Turns of the table", "1")}
        {field("off", "may be off by", "1/100")}
      </div>
      <Button className="mt-2" onClick={() => found.mutate(typed)}>
        Find the constant
      </Button>
      <p role="status" className="mt-1 min-h-6">
        {found.data?.text}
        {found.error &&
          !["train", "hob_turns", "table_turns", "off"].some(wrong) &&
          found.error.message}
      </p>
    </Disclosure>
  );
}
