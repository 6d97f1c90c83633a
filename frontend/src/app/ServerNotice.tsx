import { serverThere } from "../api/send";
import { useShared } from "../api/shared";
import { Callout } from "../kit/Callout";

/** Told as long as the server does not answer; it goes by itself. */
export function ServerNotice() {
  const there = useShared(serverThere);
  return (
    <div role="status" aria-label="Server" className="print:hidden">
      {!there && (
        <Callout tone="wrong" as="p" small>
          <b>The Valleywind server does not answer.</b> Is it still running where you started it?
          What you typed is kept here; this page goes on by itself when it answers.
        </Callout>
      )}
    </div>
  );
}
