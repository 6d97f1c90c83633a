import type { Plan } from "../../api/client";
import { useSlower } from "../../api/lathe";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Strong } from "../../kit/Strong";

/** The slowest these wheels give, and what one new wheel would bring. */
export function Slower({
  plan,
  open,
  choose,
}: {
  plan: Plan;
  open: boolean;
  choose: (train: string) => void;
}) {
  const { units } = usePreferences();
  const slower = useSlower(plan.machine, plan.ask.canonical, units, true);
  const better = slower.data?.better_train;
  return (
    <Disclosure title="Slower, finer" open={open}>
      <Callout tone="hint" small>
        {slower.data?.texts.map((text) => (
          <p key={text} className="mb-1">
            <Strong text={text} />
          </p>
        ))}
        {better && (
          <Button className="mt-1 w-full" onClick={() => choose(better)}>
            See it on the quadrant
          </Button>
        )}
        {slower.isPending && <p className="text-soft">Looking …</p>}
        {slower.error && <Failure error={slower.error} retry={() => void slower.refetch()} />}
      </Callout>
    </Disclosure>
  );
}
