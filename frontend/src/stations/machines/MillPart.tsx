import type { ReactNode } from "react";

import { type MachineRecord } from "../../api/stores";
import { Choice, Part, Row } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { type Box, BOX, BoxFields } from "./BoxFields";
import type { PutQuadrant } from "./QuadrantFields";

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
  head_at: "",
  lead: BOX,
};

/** What turns the work while the table moves, and what table, head and arbors have room for. */
export function MillPart(props: {
  typed: Mill;
  put: (typed: Mill) => void;
  wrong: (field: string) => string | undefined;
  putQuadrant: PutQuadrant;
  /** Whether the lead quadrant's fields are shown, not those of the head's arm. */
  shown: boolean;
  /** What chooses between the two. */
  children?: ReactNode;
}) {
  const { typed, put, wrong } = props;
  const text = (name: TextName, label: string, example: string, numeric = false) => (
    <TextField
      label={label}
      value={typed[name]}
      onChange={(value) => put({ ...typed, [name]: value })}
      example={example}
      problem={wrong(name)}
      numeric={numeric}
    />
  );
  const lead = typed.lead ?? BOX;
  const putBox = (changes: Partial<Box>) => put({ ...typed, lead: { ...lead, ...changes } });
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
        <Choice
          label="The dividing head stands at"
          value={typed.head_at === "left" ? "left" : "right"}
          options={[
            ["right", "the right-hand end"],
            ["left", "the left-hand end"],
          ]}
          change={(head_at) => put({ ...typed, head_at })}
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
        <Choice
          label="The pairs lie"
          value={typed.pairs_at === "before" || typed.pairs_at === "after" ? typed.pairs_at : ""}
          options={[
            ["", "not known"],
            ["before", "between table screw and wheels"],
            ["after", "between wheels and head"],
          ]}
          change={(pairs_at) => put({ ...typed, pairs_at })}
        />
      </Part>
      <Part
        title="Lead quadrant"
        note="Where the change wheels go between table and head; not the arm of the head’s own gears."
      >
        {props.children}
        {props.shown && (
          <BoxFields
            box="lead"
            typed={lead}
            put={putBox}
            wrong={wrong}
            putQuadrant={props.putQuadrant}
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

type TextName = Exclude<keyof Mill, "lead">;
