import type { ReactNode } from "react";

import type { MachineRecord } from "../../api/stores";
import { Part, Row } from "../../kit/Form";
import { FormChoice, FormText } from "../../kit/FormFields";
import { BOX, BoxFields } from "./BoxFields";

type Mill = NonNullable<MachineRecord["mill"]>;

export const MILL: Mill = {
  screw: "",
  swing: "",
  pairs: "",
  swivel: "",
  pairs_at: "",
  table: "",
  travel: "",
  saddle: "",
  arbors: "",
  head_at: "right",
  lead: BOX,
};

/** What turns the work while the table moves, and what table, head and arbors have room for. */
export function MillPart(props: {
  /** Whether the lead quadrant's fields are shown, not those of the head's arm. */
  shown: boolean;
  /** What chooses between the two. */
  children?: ReactNode;
}) {
  const named = (field: keyof Mill & string) => `mill.${field}`;
  const text = (field: keyof Mill & string, label: string, example: string, numeric = false) => (
    <FormText
      name={named(field)}
      label={label}
      example={example}
      numeric={numeric}
      long={field === "pairs" || field === "arbors"}
    />
  );
  return (
    <>
      <Part title="Its table">
        <Row>
          {text("screw", "Table screw", "6 mm, 4 tpi")}
          {text("swing", "Table swings, ± °", "45; 0 for a plain one", true)}
        </Row>
        <Row>
          {text("table", "Length x width", "1000 x 240 mm")}
          {text("travel", "Travel along", "560 mm")}
        </Row>
        {text("saddle", "Column to the table’s middle, near to far", "150 to 400 mm")}
        <FormChoice
          name={named("head_at")}
          label="The dividing head stands at"
          options={[
            ["right", "the right-hand end"],
            ["left", "the left-hand end"],
          ]}
        />
      </Part>
      <Part title="Its cutters’ side">
        <Row>
          {text("arbors", "Arbors reach from the column", "220, 320, 460 mm")}
          {text("swivel", "Cutter head swivels, ± °", "90; 0 for none", true)}
        </Row>
      </Part>
      <Part
        title="Lead attachment"
        note="Turns out to turns in, as they stand in the manual. A pair that goes in only so: 1:40 one way."
      >
        {text("pairs", "Worm pairs", "1:2, 1:10, 1:40")}
        <FormChoice
          name={named("pairs_at")}
          label="The pairs lie"
          options={[
            ["", "not known"],
            ["before", "between table screw and wheels"],
            ["after", "between wheels and head"],
          ]}
        />
      </Part>
      <Part
        title="Lead quadrant"
        note="Where the change wheels go between table and head; not the arm of the head’s own gears."
      >
        {props.children}
        {props.shown && (
          <BoxFields
            part={named("lead")}
            rightWay="A right-hand helix comes out with"
            lever="A reversing lever turns it the other way"
            names={{
              first: "table-side shaft",
              last: "head-side shaft",
              carrier: "lead quadrant",
            }}
          />
        )}
      </Part>
    </>
  );
}
