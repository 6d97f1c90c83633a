import { serverThere } from "../api/send";
import { useShared } from "../api/shared";

/** Told as long as the server does not answer; it goes by itself. */
export function ServerNotice() {
  const there = useShared(serverThere);
  return (
    <div role="status" aria-label="Server" className="print:hidden">
      {!there && (
        <p className="border-l-4 border-oxide bg-oxide-bg px-4 py-2 text-[15px]">
          <b>The Valleywind server does not answer.</b> Is it still running where you started it?
          What you typed is kept here; this page goes on by itself when it answers.
        </p>
      )}
    </div>
  );
}
