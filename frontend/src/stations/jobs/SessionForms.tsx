/** What is typed in a session: the marks counted, a reason, a jump, the hole that one is in. */
import { useState } from "react";

import { refusedAt } from "../../api/client";
import { type Cutting, type Happening, useLost } from "../../api/jobs";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";

export type Tell = (kind: Happening["kind"], about?: Partial<Happening>) => void;

/** The marks are counted against the wheel before any depth. */
export function Count({ session, tell, busy }: { session: Cutting; tell: Tell; busy: boolean }) {
  const [count, setCount] = useState("");
  const whole = /^\d{1,4}$/.test(count.trim());
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        tell("counted", { count: Number(count) });
      }}
    >
      <p className="text-figure leading-tight font-bold">
        Count the marks: there must be {session.divisions}.
      </p>
      <p className="mt-1 text-large">Nothing is cut deep yet, so a slip costs nothing.</p>
      <div className="mt-3 flex max-w-sm items-end gap-2">
        <TextField label="Marks counted" value={count} onChange={setCount} numeric />
        <Button look="main" type="submit" disabled={busy || !whole}>
          Check
        </Button>
      </div>
    </form>
  );
}

/** The first full teeth are measured while there is metal; it may be skipped with a word. */
export function Measure({
  session,
  tell,
  busy,
  error,
}: {
  session: Cutting;
  tell: Tell;
  busy: boolean;
  error: Error | null;
}) {
  const [figure, setFigure] = useState("");
  const [skip, setSkip] = useState(false);
  const wrong = refusedAt(error);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        tell("measured", { figure: figure.trim() });
        setFigure("");
      }}
    >
      <p className="text-figure leading-tight font-bold">Cutter stopped: measure.</p>
      <p className="mt-1 text-title">{session.measure}</p>
      <div className="mt-3 flex max-w-lg items-end gap-2 text-title">
        <TextField
          label="Span found"
          value={figure}
          onChange={setFigure}
          problem={wrong("figure")}
          numeric
        />
        <Button look="main" type="submit" disabled={busy || !figure.trim()}>
          Save
        </Button>
        <Button onClick={() => setSkip(true)}>Skip</Button>
      </div>
      {skip && (
        <div className="mt-3">
          <Reason
            label="Why it is not measured"
            done="Skip"
            close={() => setSkip(false)}
            take={(reason) => tell("measured", { reason })}
          />
        </div>
      )}
    </form>
  );
}

/** Why, in a few words. */
export function Reason(props: {
  label: string;
  done: string;
  close: () => void;
  take: (reason: string) => void;
}) {
  const [reason, setReason] = useState("");
  return (
    <form
      className="flex items-end gap-2 border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        props.take(reason.trim());
        props.close();
      }}
    >
      <TextField label={props.label} value={reason} onChange={setReason} />
      <Button look="main" type="submit" disabled={!reason.trim()}>
        {props.done}
      </Button>
      <Button onClick={props.close}>Cancel</Button>
    </form>
  );
}

/** To another tooth and pass, with the reason. */
export function Jump({
  session,
  close,
  tell,
}: {
  session: Cutting;
  close: () => void;
  tell: Tell;
}) {
  const [typed, setTyped] = useState({
    tooth: String(session.now?.tooth ?? 1),
    number: String(session.now?.number ?? 1),
    reason: "",
  });
  const put = (changes: Partial<typeof typed>) => setTyped({ ...typed, ...changes });
  const whole = [typed.tooth, typed.number].every((n) => /^\d{1,4}$/.test(n.trim()));
  return (
    <form
      className="flex flex-wrap items-end gap-2 border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        const { tooth, number, reason } = typed;
        tell("jump", { tooth: Number(tooth), number: Number(number), reason: reason.trim() });
        close();
      }}
    >
      <TextField
        label="To tooth"
        className="max-w-28"
        value={typed.tooth}
        onChange={(tooth) => put({ tooth })}
        numeric
      />
      <TextField
        label={session.marks ? "pass, 0 for marks" : "pass"}
        className="max-w-36"
        value={typed.number}
        onChange={(number) => put({ number })}
        numeric
      />
      <TextField label="Why" value={typed.reason} onChange={(reason) => put({ reason })} />
      <Button look="main" type="submit" disabled={!whole || !typed.reason.trim()}>
        Jump
      </Button>
      <Button onClick={close}>Cancel</Button>
    </form>
  );
}

/** From the hole and the gaps: which tooth it is. */
export function Lost({
  session,
  tell,
  close,
}: {
  session: Cutting;
  tell: Tell;
  close: () => void;
}) {
  const question = session.place_asked;
  const [typed, setTyped] = useState({ hole: "", gaps: "" });
  const lost = useLost(session.job);
  const likely = lost.data;
  // One or two teeth it may be: each is offered to go on from.
  const near =
    likely && likely.teeth.length <= 2 && session.paused == null
      ? likely.teeth.filter((tooth) => tooth !== session.now?.tooth)
      : [];
  const wrong = refusedAt(lost.error);
  const put = (changes: Partial<typeof typed>) => {
    setTyped({ ...typed, ...changes });
    lost.reset();
  };
  return (
    <form
      className="border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        lost.mutate(typed);
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        <TextField
          label={question}
          value={typed.hole}
          onChange={(hole) => put({ hole })}
          problem={wrong("hole")}
          numeric
        />
        <TextField
          label="Gaps cut in this round"
          value={typed.gaps}
          onChange={(gaps) => put({ gaps })}
          problem={wrong("gaps")}
          numeric
        />
        <Button look="main" type="submit">
          Find out
        </Button>
        <Button onClick={close}>Close</Button>
      </div>
      <p role="status" className="mt-2 text-title font-bold">
        {lost.data?.text}
        {lost.error && !wrong("hole") && !wrong("gaps") && lost.error.message}
      </p>
      <div className="flex gap-2">
        {near.map((tooth) => (
          <Button
            key={tooth}
            onClick={() => {
              tell("jump", {
                tooth,
                number: likely?.number ?? 1,
                reason: "found by hole and gaps",
              });
              close();
            }}
          >
            Go to tooth {tooth}
          </Button>
        ))}
      </div>
    </form>
  );
}
