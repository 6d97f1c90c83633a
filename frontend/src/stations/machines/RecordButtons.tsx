import { Link } from "react-router";

import { Button, buttonLook } from "../../kit/Button";

/** At the foot of a machine's record: keep what was typed, or leave it. */
export function RecordButtons({ known, busy, className }: { known: boolean; busy: boolean; className: string }) {
  return (
    <div className={`flex gap-2 ${className}`}>
      <Button type="submit" look="main" className="flex-1" disabled={busy}>
        {known ? "Keep it so" : "Enter it"}
      </Button>
      <Link className={buttonLook()} to="/machines">
        Leave
      </Link>
    </div>
  );
}
