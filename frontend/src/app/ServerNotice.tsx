import { serverThere, signedOut } from "../api/send";
import { useShared } from "../api/shared";
import { Callout } from "../kit/Callout";

/** Told as long as the server does not answer; it goes by itself. */
export function ServerNotice() {
  const there = useShared(serverThere);
  const out = useShared(signedOut);
  return (
    <div role="status" aria-label="Server" className="print:hidden">
      {!there && (
        <Callout tone="wrong" as="p" small>
          <b>The Valleywind server does not answer.</b> Is it still running where you started it?
          What you typed is kept here; this page goes on by itself when it answers.
        </Callout>
      )}
      {there && out && (
        <Callout tone="wrong" as="p" small>
          <b>You are not signed in any more.</b> What you typed is kept here.{" "}
          <a className="font-bold underline" href="/sign-in" target="_blank" rel="noreferrer">
            Sign in
          </a>
          , then come back to this page.
        </Callout>
      )}
    </div>
  );
}
