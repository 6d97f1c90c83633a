import { Refusal } from "../api/client";
import { Reading } from "./AskLine";
import { Failure } from "./Notice";

/** Why an ask could not be planned: what was understood of it, what not, and the nearest that would be. */
export function PlanFailure({
  error,
  retry,
  take,
}: {
  error: Error;
  retry: () => void;
  take: (ask: string) => void;
}) {
  const problem = error instanceof Refusal ? error.problem : undefined;
  const { understood = [], left_over = [], nearest = [] } = problem ?? {};
  return (
    <Failure error={error} retry={retry}>
      {problem && (
        <div className="mt-2">
          <Reading reading={{ ...problem, understood, left_over, nearest }} take={take} />
        </div>
      )}
    </Failure>
  );
}
