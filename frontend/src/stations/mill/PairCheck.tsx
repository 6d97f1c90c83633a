import { useEffect, useState } from "react";
import { Link } from "react-router";

import { refusedAt } from "../../api/client";
import { type HelixSetUp, type PairFields, usePair } from "../../api/mill";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { Figures } from "../../planning/Figures";

/** Wheel and mate: angles, hands, shafts, their distance, and whether one train cuts both. */
export function PairCheck(props: {
  machine: string;
  ask: string;
  set: HelixSetUp;
  /** Teeth of the mate, where the ask says them. */
  mate: string;
}) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState<PairFields>({
    mate: props.mate,
    helix: "",
    hand: "",
    centres: "",
  });
  const pair = usePair(props.machine, props.ask, props.set.train, units);
  const { reset } = pair;
  useEffect(() => reset(), [props.set.train, props.ask, reset]);
  const wrong = refusedAt(pair.error);
  const put = (changes: Partial<PairFields>) => {
    setTyped({ ...typed, ...changes });
    reset();
  };
  return (
    <form
      className="border border-line bg-paper p-3 text-lesser"
      onSubmit={(event) => {
        event.preventDefault();
        pair.mutate(typed);
      }}
    >
      <h3 className="font-bold">Does it run with its mate?</h3>
      <div className="mt-2 flex gap-2">
        <TextField
          label="Mate’s teeth"
          value={typed.mate}
          onChange={(mate) => put({ mate })}
          example="36"
          problem={wrong("mate")}
          numeric
        />
        <TextField
          label="Its helix, °"
          value={typed.helix}
          onChange={(helix) => put({ helix })}
          example="alike"
          problem={wrong("helix")}
          numeric
        />
      </div>
      <div className="mt-2 flex gap-2">
        <Choice
          label="Its hand"
          value={typed.hand}
          options={[
            ["", "other hand"],
            ["right", "right-hand"],
            ["left", "left-hand"],
          ]}
          change={(hand) => put({ hand })}
        />
        <TextField
          label="Shafts apart"
          value={typed.centres}
          onChange={(centres) => put({ centres })}
          example="55.45 mm"
          problem={wrong("centres")}
        />
      </div>
      <Button type="submit" className="mt-3 w-full" disabled={!typed.mate.trim()}>
        Check the pair
      </Button>
      <div role="status" className="mt-2">
        {pair.error && !["mate", "helix", "centres"].some(wrong) && (
          <p className="text-oxide">{pair.error.message}</p>
        )}
        {pair.data && (
          <>
            <Figures figures={pair.data.figures} />
            <Callout tone="note" as="p">
              {pair.data.train}
            </Callout>
            <Link
              to={`/mill/${props.machine}?${new URLSearchParams({ ask: pair.data.ask })}`}
              className="inline-flex min-h-11 items-center font-bold underline underline-offset-2"
            >
              Plan the mate
            </Link>
          </>
        )}
      </div>
    </form>
  );
}
