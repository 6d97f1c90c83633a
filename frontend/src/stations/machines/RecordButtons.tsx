import { Link } from "react-router";

import { Button, buttonLook } from "../../kit/Button";

/** At the foot of a machine's record: save what was typed, or not. */
export function RecordButtons({ busy, className }: { busy: boolean; className: string }) {
  return (
    <div className={`flex gap-2 ${className}`}>
      <Button type="submit" look="main" className="flex-1" disabled={busy}>
        Save
      </Button>
      <Link className={buttonLook()} to="/machines">
        Cancel
      </Link>
    </div>
  );
}
