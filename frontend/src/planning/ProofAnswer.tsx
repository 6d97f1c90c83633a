import { Working } from "../kit/Working";

interface Slip {
  text: string;
}

/** What a reading was answered: yes, or the slips that explain it, one of which may be looked at; and what to read next. */
export function ProofAnswer<S extends Slip>(props: {
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
          <p
            className={`border-l-4 px-2 py-1 ${answer.agrees ? "border-good" : "border-oxide bg-oxide-bg"}`}
          >
            {answer.text}
          </p>
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
        <p className="mt-2 border-l-4 border-blue bg-blue-bg px-2 py-1">{answer.next_text}</p>
      )}
    </>
  );
}
