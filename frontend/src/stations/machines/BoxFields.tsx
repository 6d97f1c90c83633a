import type { Schemas } from "../../api/client";
import { Checkbox } from "../../kit/Checkbox";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { type PutQuadrant, QUADRANT, QuadrantFields } from "./QuadrantFields";

export type Box = Schemas["BoxIO"];
export const BOX: Box = { quadrant: QUADRANT, turns: "", lever: false, posts: "" };

/** Where change wheels go: which way it turns, its posts, its quadrant. */
export function BoxFields(props: {
  /** Its name in fields, such as `lead`. */
  box: string;
  typed: Box;
  put: (changes: Partial<Box>) => void;
  wrong: (field: string) => string | undefined;
  putQuadrant: PutQuadrant;
  /** What runs the right way with an even or odd number of meshes. */
  rightWay: string;
  /** What turns it the other way. */
  lever: string;
  names: { first: string; last: string; carrier: string };
}) {
  const { box, typed, put, wrong } = props;
  return (
    <>
      <Choice
        label={props.rightWay}
        value={typed.turns}
        options={[
          ["", "not known"],
          ["even", "an even number of meshes"],
          ["odd", "an odd number of meshes"],
        ]}
        change={(turns) => put({ turns })}
      />
      {wrong(`${box}.turns`) && <p className="text-oxide">{wrong(`${box}.turns`)}</p>}
      <Checkbox label={props.lever} ticked={typed.lever} change={(lever) => put({ lever })} />
      <TextField
        label="Posts from the first shaft on: diameter x length in mm, worn"
        value={typed.posts}
        onChange={(posts) => put({ posts })}
        example="22 x 70, 22 x 66 worn, 22 x 70"
        problem={wrong(`${box}.posts`)}
      />
      <QuadrantFields
        quadrant={typed.quadrant ?? QUADRANT}
        put={props.putQuadrant}
        wrong={(field) => wrong(`${box}.${field}`)}
        names={props.names}
      />
    </>
  );
}
