import type { Schemas } from "../../api/client";
import { FormCheckbox, FormChoice, FormText } from "../../kit/FormFields";
import { QuadrantFields } from "./QuadrantFields";
import { inside, QUADRANT } from "./recordForm";

type Box = Schemas["BoxIO"];
export const BOX: Box = { quadrant: QUADRANT, turns: "", lever: false, posts: "" };

/** Where change wheels go: which way it turns, its posts, its quadrant. */
export function BoxFields(props: {
  /** Its place in the record. */
  part: string;
  /** What runs the right way with an even or odd number of meshes. */
  rightWay: string;
  /** What turns it the other way. */
  lever: string;
  names: { first: string; last: string; carrier: string };
}) {
  const named = (field: keyof Box & string) => inside(props.part, field);
  return (
    <>
      <FormChoice
        name={named("turns")}
        label={props.rightWay}
        options={[
          ["", "not known"],
          ["even", "an even number of meshes"],
          ["odd", "an odd number of meshes"],
        ]}
      />
      <FormCheckbox name={named("lever")} label={props.lever} />
      <FormText
        name={named("posts")}
        label="Posts from the first shaft on: diameter x length in mm, worn"
        example="22 x 70, 22 x 66 worn, 22 x 70"
        long
      />
      <QuadrantFields part={named("quadrant")} names={props.names} />
    </>
  );
}
