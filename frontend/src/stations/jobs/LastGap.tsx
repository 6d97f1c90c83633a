import { useState } from "react";

import { refusedAt } from "../../api/client";
import { useLastGap } from "../../api/jobs";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";

/** The last gap against its neighbours: right, or the slip that explains it. */
export function LastGap({ job }: { job: number }) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState({ measured: "", off: "0.03 mm" });
  const lastGap = useLastGap(job, units);
  const wrong = refusedAt(lastGap.error);
  const put = (changes: Partial<typeof typed>) => {
    setTyped({ ...typed, ...changes });
    lastGap.reset();
  };
  return (
    <form
      className="mt-2 max-w-md"
      onSubmit={(event) => {
        event.preventDefault();
        lastGap.mutate(typed);
      }}
    >
      <div className="flex items-end gap-2">
        <TextField
          label="Last tooth too thick by (− thin)"
          value={typed.measured}
          onChange={(measured) => put({ measured })}
          example="0.33"
          problem={wrong("measured")}
        />
        <TextField
          label="±"
          className="max-w-24"
          value={typed.off}
          onChange={(off) => put({ off })}
          problem={wrong("off")}
        />
        <Button type="submit" disabled={!typed.measured.trim()}>
          Explain
        </Button>
      </div>
      <div role="status">
        {lastGap.error && !wrong("measured") && !wrong("off") && (
          <p className="text-oxide">{lastGap.error.message}</p>
        )}
        {lastGap.data && (
          <>
            <p className="mt-1 font-bold">{lastGap.data.text}</p>
            <ul>
              {lastGap.data.slips.map((slip) => (
                <Callout key={slip} tone="wrong" as="li">
                  {slip}
                </Callout>
              ))}
            </ul>
          </>
        )}
      </div>
    </form>
  );
}
