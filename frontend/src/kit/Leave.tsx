import { Button } from "./Button";

export const LEAVE = "Leave without saving?";

/** What is lost by leaving, and the two ways on. */
export function Leave({ stay, leave }: { stay: () => void; leave: () => void }) {
  return (
    <>
      <p className="mt-2">What you typed here is not saved yet.</p>
      <div className="mt-4 flex gap-2">
        <Button look="main" onClick={stay} autoFocus>
          Stay
        </Button>
        <Button onClick={leave}>Leave</Button>
      </div>
    </>
  );
}
