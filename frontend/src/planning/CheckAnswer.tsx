import { Callout } from "../kit/Callout";
import { Working } from "../kit/Working";

interface Slip {
  text: string;
}

/** What a reading was answered: yes, or the slips that explain it, one of which may be looked at; and what to read next. */
export function CheckAnswer<S extends Slip>(props: {
  answer?: { agrees: boolean; text: string; slips: S[]; next_text?: string | null };
  waiting: boolean;
  /** What went wrong and is not said at a field. */
  failed?: string;
  shown?: string;
  look: (slip?: S) => void;
}) {
  const { answer, shown } = props;
  return (
    <>
      <div role="status" className="mt-2">
        {props.failed && <p className="text-oxide">{props.failed}</p>}
        {props.waiting && <Working text="Looking for the slip …" />}
        {answer && (
          <Callout as="p" tone={answer.agrees ? "good" : "wrong"}>
            {answer.text}
          </Callout>
        )}
      </div>
      {answer && answer.slips.length > 0 && (
        <ol className="mt-2 flex flex-col gap-2">
          {answer.slips.map((slip) => (
            <li key={slip.text}>
              <button
                type="button"
                aria-pressed={shown === slip.text}
                className={`min-h-11 w-full rounded-sm border px-2 py-2 text-left ${shown === slip.text ? "border-blue bg-blue-bg" : "border-line"}`}
                onClick={() => props.look(shown === slip.text ? undefined : slip)}
              >
                {slip.text}
              </button>
            </li>
          ))}
        </ol>
      )}
      {answer?.next_text && (
        <Callout tone="hint" as="p" className="mt-2">
          {answer.next_text}
        </Callout>
      )}
    </>
  );
}
