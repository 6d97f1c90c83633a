import { type ReactNode, useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";

import { Refusal } from "../../api/client";
import {
  type Cutting,
  type Happening,
  useCutting,
  useHappening,
  useShowCutting,
} from "../../api/jobs";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { BlankDrawing } from "../../drawing/BlankDrawing";
import { PlateDrawing } from "../../drawing/PlateDrawing";
import { useSize } from "../../drawing/useSize";
import { clock } from "../../kit/date";
import { Callout } from "../../kit/Callout";
import { Button, buttonLook } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { DevicesPanel } from "./DevicesPanel";
import { newKey } from "../../api/key";
import { useOthersAt } from "../../api/presence";
import { serverThere } from "../../api/send";
import { actionOf, type KeyMap, LearnedKeys, useKeyMap } from "./LearnedKeys";
import { useVoice } from "./voice";
import { Count, Jump, Lost, Measure, Reason } from "./SessionForms";

// ms between two tries to tell what never arrived.
const AGAIN = 1500;

/** The cutting session: what to do now, read at arm's length; nothing goes on before it is on disk. */
export default function SessionStation() {
  const number = Number(useParams().job) || 0;
  const { units } = usePreferences();
  const session = useCutting(number, units);
  useAwake();
  if (session.error && !session.data)
    return (
      <div className="p-6">
        <Failure error={session.error} retry={() => void session.refetch()} />
        <Link className={`${buttonLook()} mt-3`} to={`/jobs/${number}`}>
          See the job
        </Link>
      </div>
    );
  return session.data ? (
    <SessionPage
      session={session.data}
      away={session.isError || session.fetchStatus === "paused"}
    />
  ) : null;
}

/** Keep the screen on while one is at the machine. */
function useAwake() {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    const hold = () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      navigator.wakeLock.request("screen").then(
        (handle) => (lock = handle),
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

/** Space bar or Enter, and a pedal that types one of them, say that the cut is made; on a button they press that. So do
 * the keys that were learned. */
function useAdvance(advance: () => void, back: () => void, ready: boolean, learned: KeyMap) {
  useEffect(() => {
    // Whoever comes here is at the machine: the ask line lets the keys go.
    if (document.activeElement instanceof HTMLInputElement) document.activeElement.blur();
  }, []);
  // Before it is painted: whoever sees the tooth may press.
  useLayoutEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const { target, key } = event;
      const usual = key === " " || key === "Enter";
      const action = actionOf(learned, key) ?? (usual ? "done" : undefined);
      if (!action || event.repeat) return;
      // A letter that is typed into a field is meant for that, and the space bar on a button for the button.
      const field = "input, textarea, select";
      const meant = usual ? `button, a, ${field}` : key.length === 1 ? field : undefined;
      if (meant && target instanceof HTMLElement && target.closest(meant)) return;
      event.preventDefault();
      if (action === "measure") {
        document.querySelector<HTMLElement>("section[aria-label=Now] input")?.focus();
      } else if (ready) {
        if (action === "back") back();
        else advance();
      }
    };
    addEventListener("keydown", pressed);
    return () => removeEventListener("keydown", pressed);
  }, [advance, back, ready, learned]);
}

function SessionPage({ session, away }: { session: Cutting; away: boolean }) {
  const { units } = usePreferences();
  const happening = useHappening(session.job, units);
  const show = useShowCutting(session.job, units);
  // One thing is told at a time; told again after a failure it keeps its key, so that it counts once.
  const waiting = useRef<Happening>(undefined);
  const busy = useRef(false);
  // What is recorded so far, also where the screen has not shown it yet.
  const seen = useRef(session.seen);
  useLayoutEffect(() => {
    seen.current = Math.max(seen.current, session.seen);
  }, [session.seen]);
  const [unsent, setUnsent] = useState(false);
  const { mutateAsync, isPending } = happening;
  const [sound, setSound] = useState(false);
  const voice = useVoice(
    session.now && `Tooth ${session.now.tooth}. ${session.now.move}, ${session.now.stands}.`,
  );
  const tell = useCallback(
    (kind: Happening["kind"], about: Partial<Happening> = {}) => {
      if (busy.current) return;
      // The very same told again keeps its key; anything else that was typed now is another thing.
      const before = waiting.current;
      const same =
        before?.kind === kind &&
        JSON.stringify({ ...before, ...about }) === JSON.stringify({ ...before });
      const happening: Happening =
        before && same ? before : { key: newKey(), seen: seen.current, kind, ...about };
      waiting.current = happening;
      busy.current = true;
      mutateAsync(happening).then(
        (now) => {
          waiting.current = undefined;
          busy.current = false;
          setUnsent(false);
          seen.current = now.seen;
          show(now);
          if (sound) beep();
        },
        (error: unknown) => {
          busy.current = false;
          // What was refused is not told again; what never arrived is.
          if (error instanceof Refusal) waiting.current = undefined;
          setUnsent(!(error instanceof Refusal));
        },
      );
    },
    [mutateAsync, show, sound],
  );
  // What never arrived is told once more when the line is back: with its key it counts once, and where another device
  // went on meanwhile it is refused.
  useEffect(() => {
    if (!unsent) return;
    const again = setInterval(() => {
      if (waiting.current && serverThere.get()) tell(waiting.current.kind, waiting.current);
    }, AGAIN);
    return () => clearInterval(again);
  }, [unsent, tell]);
  const { now, finished, paused, must_count, must_measure } = session;
  const open = !finished && paused == null && !must_count && !must_measure;
  const ready = open && !isPending;
  const advance = useCallback(() => tell("done"), [tell]);
  // By its key, too, nothing goes before what is not recorded yet.
  const back = useCallback(() => {
    if (!unsent) tell("back");
  }, [tell, unsent]);
  const [learned, keep] = useKeyMap();
  const [learning, setLearning] = useState(false);
  useAdvance(advance, back, open && !learning, learned);
  const [form, setForm] = useState<"pause" | "jump" | "note" | "lost">();
  const close = () => setForm(undefined);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_minmax(280px,34%)] print:hidden tall:grid-cols-1 tall:grid-rows-[auto_minmax(0,1fr)] phone:flex phone:h-auto phone:flex-col short:flex short:h-auto short:flex-col">
      {/* Held across, the big button stands beside what is to be done. */}
      <section
        aria-label="Now"
        className="flex min-h-0 min-w-0 flex-col gap-3 bg-paper p-5 phone:p-3 short:gap-1 short:p-2 short:pr-[36%]"
      >
        <header className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
          <h1 className="text-heading font-bold">{session.title}</h1>
          <span className="text-soft">{session.divides}</span>
          <Others session={session.job} />
        </header>
        {(away || happening.error) && (
          <Callout role="alert" tone="wrong" className="text-large">
            {happening.error
              ? unsent
                ? "Not recorded yet: the line is away. It is recorded once when the line is back."
                : `Not recorded: ${happening.error.message}`
              : "The server does not answer. Nothing goes on; the next moves stay readable."}
          </Callout>
        )}
        {finished ? (
          <p className="text-huge leading-tight font-bold">Every gap is cut.</p>
        ) : must_count ? (
          <Count session={session} tell={tell} busy={isPending} />
        ) : must_measure ? (
          <Measure session={session} tell={tell} busy={isPending} error={happening.error} />
        ) : (
          now && (
            <>
              <p aria-live="polite" aria-atomic className="font-mono leading-none font-bold">
                <span className="sr-only">
                  Tooth {now.tooth} of {session.divisions}.
                </span>
                <span className="block text-move phone:text-huge-phone short:text-huge-phone">
                  {together(now.move)}
                </span>
                <span className="mt-3 block text-[clamp(24px,3.4vw,46px)] font-normal short:mt-1">
                  {now.stands}
                </span>
              </p>
              <p className="flex flex-wrap items-baseline gap-x-8 text-[clamp(20px,2.6vw,34px)]">
                <span>
                  tooth <b className="font-mono text-more">{now.tooth}</b> of {session.divisions}
                </span>
                <span>{now.depth}</span>
              </p>
              {session.hint && <p className="text-[clamp(17px,1.7vw,22px)]">{session.hint}</p>}
            </>
          )
        )}
        {paused != null && (
          <Callout tone="note" as="p" className="text-title">
            Paused: {paused}
          </Callout>
        )}
        <div className="mt-auto flex flex-col gap-3 short:gap-2">
          {!finished &&
            !must_count &&
            !must_measure &&
            (paused != null ? (
              <Big onClick={() => tell("resume")} disabled={isPending}>
                Go on
              </Big>
            ) : (
              <Big onClick={advance} disabled={!ready}>
                {unsent ? "Record it again" : "Cut – next"}
              </Big>
            ))}
          {finished && (
            <Link
              className={`${buttonLook("main")} min-h-24! text-title`}
              to={`/jobs/${session.job}#step-last_gap`}
            >
              Compare the last gap
            </Link>
          )}
          <div className="flex flex-wrap gap-2">
            <Button
              onClick={back}
              disabled={isPending || unsent || session.cut === 0 || paused != null}
            >
              Back
            </Button>
            <Button
              onClick={() => setForm("pause")}
              disabled={unsent || paused != null || finished}
            >
              Pause
            </Button>
            <Button onClick={() => setForm("jump")} disabled={unsent || paused != null}>
              Jump
            </Button>
            {session.marks && session.now?.number === 0 && paused == null && (
              <Button
                onClick={() => tell("jump", { tooth: 1, number: 1, reason: "without marks" })}
              >
                Without marks
              </Button>
            )}
            <Button onClick={() => setForm("note")} disabled={unsent}>
              Note
            </Button>
            <Button onClick={() => setForm("lost")}>Which tooth is this?</Button>
            <Button aria-pressed={sound} onClick={() => setSound(!sound)}>
              {sound ? "Sound on" : "Sound off"}
            </Button>
            {voice.there && (
              <Button aria-pressed={voice.on} onClick={voice.toggle}>
                {voice.on ? "Voice on" : "Voice off"}
              </Button>
            )}
            <Link className={`${buttonLook()} ml-auto`} to={`/jobs/${session.job}`}>
              The job
            </Link>
          </div>
          {form === "pause" && (
            <Reason
              label="Why"
              done="Pause"
              close={close}
              take={(reason) => tell("pause", { reason })}
            />
          )}
          {form === "note" && (
            <Reason
              label="Note"
              done="Save"
              close={close}
              take={(reason) => tell("note", { reason })}
            />
          )}
          {form === "jump" && <Jump session={session} close={close} tell={tell} />}
          {form === "lost" && <Lost session={session} tell={tell} close={close} />}
        </div>
      </section>
      <Beside session={session}>
        <LearnedKeys learned={learned} keep={keep} listening={setLearning} />
      </Beside>
    </div>
  );
}

/** Who else has this session on a screen. */
function Others({ session }: { session: number }) {
  const others = useOthersAt(session);
  if (others.length === 0) return null;
  const named = others.map(
    ({ name, same_device, since }) =>
      `${same_device ? "another page of this device" : name}, since ${clock(since)}`,
  );
  return (
    <span role="status" className="font-bold text-blue short:text-fine">
      Also here: {named.join("; ")}
    </span>
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
      className="min-h-[112px] w-full rounded-sm border-2 border-enamel bg-enamel text-figure font-bold text-[#f7f6f0] disabled:opacity-50 dark:border-good dark:bg-enamel-2 short:fixed short:top-13 short:right-2 short:bottom-2 short:z-10 short:w-[34%]"
      onClick={props.onClick}
      disabled={props.disabled}
    >
      {props.children}
    </button>
  );
}

/** Plate, blank, the moves that come, time, and what was recorded. */
function Beside({ session, children }: { session: Cutting; children: ReactNode }) {
  const { now, plate, pin } = session;
  const [paper, size] = useSize<HTMLDivElement>();
  const side = Math.min(size.width, 380);
  return (
    <section
      aria-label="Beside it"
      className="min-h-0 overflow-y-auto border-l border-line p-4 tall:border-t tall:border-l-0 short:pr-[36%]"
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
                className="border-t border-line py-1 text-large"
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
      {children}
      <Disclosure title="Recorded" state={String(session.seen)} className="mt-1">
        <ol>
          {session.happened.map((one) => (
            <li key={one.place} className="border-t border-line py-1 text-fine">
              <span className="text-soft">{clock(one.at)}</span> {one.text}
            </li>
          ))}
        </ol>
      </Disclosure>
    </section>
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
