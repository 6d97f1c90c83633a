import { type ReactNode, useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";

import { Refusal, refusedAt } from "../../api/client";
import {
  type Cutting,
  type Happening,
  useCutting,
  useHappening,
  useLost,
  useShowCutting,
} from "../../api/jobs";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { BlankDrawing } from "../../drawing/BlankDrawing";
import { PlateDrawing } from "../../drawing/PlateDrawing";
import { useSize } from "../../drawing/useSize";
import { Button, buttonLook } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { TextField } from "../../kit/TextField";
import { DevicesPanel } from "./DevicesPanel";

/** The cutting session: what to do now, read at arm's length; nothing goes on before it is on disk. */
export default function SessionStation() {
  const number = Number(useParams().job) || 0;
  const { units } = usePreferences();
  const session = useCutting(number, units);
  useAwake();
  if (session.error && !session.data)
    return (
      <div className="p-6">
        <Failed error={session.error} retry={() => void session.refetch()} />
        <Link className={`${buttonLook()} mt-3`} to={`/jobs/${number}`}>
          See the job
        </Link>
      </div>
    );
  return session.data ? (
    <Shown session={session.data} away={session.isError || session.fetchStatus === "paused"} />
  ) : null;
}

/** Keep the screen on while one is at the machine. */
function useAwake() {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    const hold = () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      navigator.wakeLock.request("screen").then(
        (found) => (lock = found),
        () => undefined, // where it is not allowed the screen dims as ever
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
}

/** Space bar or Enter, and a pedal that types one of them, say that the cut is made; on a button they press that. */
function useAdvance(advance: () => void, ready: boolean) {
  useEffect(() => {
    // Whoever comes here is at the machine: the ask line lets the keys go.
    if (document.activeElement instanceof HTMLInputElement) document.activeElement.blur();
  }, []);
  // Before it is painted: whoever sees the tooth may press.
  useLayoutEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const { target, key } = event;
      if ((key !== " " && key !== "Enter") || event.repeat) return;
      if (target instanceof HTMLElement && target.closest("button, a, input, textarea, select"))
        return;
      event.preventDefault();
      if (ready) advance();
    };
    addEventListener("keydown", pressed);
    return () => removeEventListener("keydown", pressed);
  }, [advance, ready]);
}

function Shown({ session, away }: { session: Cutting; away: boolean }) {
  const { units } = usePreferences();
  const happening = useHappening(session.job, units);
  const show = useShowCutting(session.job, units);
  // One thing is told at a time; told again after a failure it keeps its key, so that it counts once.
  const waiting = useRef<Happening>(undefined);
  const busy = useRef(false);
  // What is recorded so far, also where the screen has not shown it yet.
  const seen = useRef(session.seen);
  seen.current = Math.max(seen.current, session.seen);
  const { mutateAsync, isPending } = happening;
  const [sound, setSound] = useState(false);
  const tell = useCallback(
    (kind: Happening["kind"], about: Partial<Happening> = {}) => {
      if (busy.current) return;
      const again = waiting.current?.kind === kind ? waiting.current : undefined;
      const told: Happening = again ?? {
        key: crypto.randomUUID(),
        seen: seen.current,
        kind,
        ...about,
      };
      waiting.current = told;
      busy.current = true;
      mutateAsync(told).then(
        (now) => {
          waiting.current = undefined;
          busy.current = false;
          seen.current = now.seen;
          show(now);
          if (sound) beep();
        },
        (error: unknown) => {
          busy.current = false;
          // What was refused is not told again; what never arrived is.
          if (error instanceof Refusal) waiting.current = undefined;
        },
      );
    },
    [mutateAsync, show, sound],
  );
  const { now, finished, paused, must_count } = session;
  const open = !finished && paused == null && !must_count;
  const ready = open && !isPending;
  const advance = useCallback(() => tell("done"), [tell]);
  useAdvance(advance, open);
  const [asked, setAsked] = useState<"pause" | "jump" | "note" | "lost">();
  const close = () => setAsked(undefined);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_minmax(280px,34%)] print:hidden tall:grid-cols-1 tall:grid-rows-[auto_minmax(0,1fr)] phone:flex phone:h-auto phone:flex-col">
      <section
        aria-label="Now"
        className="flex min-h-0 min-w-0 flex-col gap-3 bg-paper p-5 phone:p-3"
      >
        <header className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
          <h1 className="text-[19px] font-bold">{session.title}</h1>
          <span className="text-soft">{session.divides}</span>
        </header>
        {(away || happening.error) && (
          <div role="alert" className="border-l-4 border-oxide bg-oxide-bg px-3 py-2 text-[18px]">
            {happening.error
              ? `Not recorded: ${happening.error.message}`
              : "The server does not answer. Nothing goes on; the next moves stay readable."}
          </div>
        )}
        {finished ? (
          <p className="text-[44px] leading-tight font-bold">Every gap is cut.</p>
        ) : must_count ? (
          <Count session={session} tell={tell} busy={isPending} />
        ) : (
          now && (
            <>
              <p aria-live="polite" className="font-mono leading-none font-bold">
                <span className="block text-[clamp(44px,6.2vw,104px)] phone:text-[41px]">
                  {together(now.move)}
                </span>
                <span className="mt-3 block text-[clamp(24px,3.4vw,46px)] font-normal">
                  {now.stands}
                </span>
              </p>
              <p className="flex flex-wrap items-baseline gap-x-8 text-[clamp(20px,2.6vw,34px)]">
                <span>
                  tooth <b className="font-mono text-[1.5em]">{now.tooth}</b> of {session.divisions}
                </span>
                <span>{now.depth}</span>
              </p>
              {session.hint && <p className="text-[clamp(17px,1.7vw,22px)]">{session.hint}</p>}
            </>
          )
        )}
        {paused != null && (
          <p className="border-l-4 border-brass-line bg-brass-bg px-3 py-2 text-[22px]">
            Paused: {paused}
          </p>
        )}
        <div className="mt-auto flex flex-col gap-3">
          {!finished &&
            !must_count &&
            (paused != null ? (
              <Big onClick={() => tell("resume")} disabled={isPending}>
                Go on
              </Big>
            ) : (
              <Big onClick={advance} disabled={!ready}>
                {waiting.current && happening.error ? "Record it again" : "Cut – next"}
              </Big>
            ))}
          {finished && (
            <Link
              className={`${buttonLook("main")} min-h-24! text-[24px]`}
              to={`/jobs/${session.job}`}
            >
              Compare the last gap
            </Link>
          )}
          <div className="flex flex-wrap gap-2">
            <Button
              onClick={() => tell("back")}
              disabled={isPending || session.cut === 0 || paused != null}
            >
              Back
            </Button>
            <Button onClick={() => setAsked("pause")} disabled={paused != null || finished}>
              Pause
            </Button>
            <Button onClick={() => setAsked("jump")} disabled={paused != null}>
              Jump
            </Button>
            <Button onClick={() => setAsked("note")}>Note</Button>
            <Button onClick={() => setAsked("lost")}>Which tooth is this?</Button>
            <Button aria-pressed={sound} onClick={() => setSound(!sound)}>
              {sound ? "Sound on" : "Sound off"}
            </Button>
            <Link className={`${buttonLook()} ml-auto`} to={`/jobs/${session.job}`}>
              The job
            </Link>
          </div>
          {asked === "pause" && (
            <Reason
              label="Why"
              done="Pause"
              close={close}
              take={(reason) => tell("pause", { reason })}
            />
          )}
          {asked === "note" && (
            <Reason
              label="Note"
              done="Save"
              close={close}
              take={(reason) => tell("note", { reason })}
            />
          )}
          {asked === "jump" && <Jump session={session} close={close} tell={tell} />}
          {asked === "lost" && <Lost job={session.job} close={close} />}
        </div>
      </section>
      <Beside session={session} />
    </div>
  );
}

/** A figure and what it counts stay in one line: `2 turns` and `8 spaces`. */
function together(move: string): string {
  return move.replace(/(\d) (?=[a-z])/g, "$1\u00a0");
}

function Big(props: { onClick: () => void; disabled: boolean; children: ReactNode }) {
  return (
    <button
      type="button"
      className="min-h-[112px] w-full rounded-sm border-2 border-enamel bg-enamel text-[34px] font-bold text-[#f7f6f0] disabled:opacity-50 dark:border-good dark:bg-enamel-2"
      onClick={props.onClick}
      disabled={props.disabled}
    >
      {props.children}
    </button>
  );
}

/** Plate, blank, the moves that come, time, and what was recorded. */
function Beside({ session }: { session: Cutting }) {
  const { now, plate, pin } = session;
  const [paper, size] = useSize<HTMLDivElement>();
  const side = Math.min(size.width, 380);
  return (
    <section
      aria-label="Beside it"
      className="min-h-0 overflow-y-auto border-l border-line p-4 tall:border-t tall:border-l-0"
    >
      <div ref={paper} className="tall:grid tall:grid-cols-2 tall:gap-4 phone:block">
        {side > 0 && plate && pin && (
          <div className="bg-paper">
            <PlateDrawing
              plate={plate}
              move={{ ...pin, text: "" }}
              done={(now?.tooth ?? 1) - 1}
              size={Math.max(220, Math.min(side, 320))}
            />
          </div>
        )}
        {side > 0 && (
          <div className="mt-3 grid place-items-center bg-paper">
            <BlankDrawing
              gaps={session.gaps}
              marked={session.marked}
              passes={session.passes}
              at={now?.tooth ?? 1}
              size={Math.max(200, Math.min(side, 280))}
            />
          </div>
        )}
      </div>
      {session.next.length > 0 && (
        <>
          <h2 className="mt-3 font-bold">Then</h2>
          <ol>
            {session.next.map((one) => (
              <li
                key={`${one.number} ${one.tooth}`}
                className="border-t border-line py-1 text-[17px]"
              >
                <b className="font-mono">{one.move}</b>, {one.stands}: tooth {one.tooth}
              </li>
            ))}
          </ol>
        </>
      )}
      <p className="mt-2">
        {session.cut} of {session.cuts} cuts
        {session.per_cut && `, ${session.per_cut} each`}
        {session.left && `, ${session.left} left`}
      </p>
      <DevicesPanel job={session.job} cutting={!session.finished} />
      <Disclosure title="Recorded" state={String(session.seen)} className="mt-1">
        <ol>
          {session.happened.map((one) => (
            <li key={one.place} className="border-t border-line py-1 text-[14px]">
              <span className="text-soft">{new Date(one.at).toLocaleTimeString()}</span> {one.text}
            </li>
          ))}
        </ol>
      </Disclosure>
    </section>
  );
}

type Tell = (kind: Happening["kind"], about?: Partial<Happening>) => void;

/** The marks are counted against the wheel before any depth. */
function Count({ session, tell, busy }: { session: Cutting; tell: Tell; busy: boolean }) {
  const [count, setCount] = useState("");
  const whole = /^\d{1,4}$/.test(count.trim());
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        tell("counted", { count: Number(count) });
      }}
    >
      <p className="text-[34px] leading-tight font-bold">
        Count the marks: there must be {session.divisions}.
      </p>
      <p className="mt-1 text-[18px]">Nothing is cut deep yet, so a slip costs nothing.</p>
      <div className="mt-3 flex max-w-sm items-end gap-2">
        <TextField label="Marks counted" value={count} onChange={setCount} numeric />
        <Button look="main" type="submit" disabled={busy || !whole}>
          Check
        </Button>
      </div>
    </form>
  );
}

function Reason(props: {
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

function Jump({ session, close, tell }: { session: Cutting; close: () => void; tell: Tell }) {
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
function Lost({ job, close }: { job: number; close: () => void }) {
  const [typed, setTyped] = useState({ hole: "", gaps: "" });
  const lost = useLost(job);
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
          label="Hole the pin is in, from 0"
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
      <p role="status" className="mt-2 text-[20px] font-bold">
        {lost.data?.text}
        {lost.error && !wrong("hole") && !wrong("gaps") && lost.error.message}
      </p>
    </form>
  );
}

/** A short tone: it is recorded. */
function beep() {
  const context = new AudioContext();
  const tone = context.createOscillator();
  const volume = context.createGain();
  volume.gain.value = 0.2;
  tone.frequency.value = 880;
  tone.connect(volume).connect(context.destination);
  tone.start();
  tone.stop(context.currentTime + 0.12);
  tone.onended = () => void context.close();
}
