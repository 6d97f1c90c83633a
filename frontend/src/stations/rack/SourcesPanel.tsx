import { type ReactNode, useState } from "react";
import { Link } from "react-router";

import { refusedAt } from "../../api/client";
import { type Bought, useBought, useSources } from "../../api/stores";
import { usePreferences } from "../../app/preferences";
import { Button, buttonLook } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Row } from "../../kit/Form";
import { Failure } from "../../app/Notice";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";

/** How to get a wheel: the cutter for it, a larger one re-cut, a piece of bar, one bought and fitted. */
export function SourcesPanel({ family, teeth }: { family: number; teeth: number }) {
  const { units } = usePreferences();
  const [blanks, setBlanks] = useState(1);
  const sources = useSources(family, teeth, blanks, units);
  if (sources.error) return <Failure error={sources.error} retry={() => void sources.refetch()} />;
  const answer = sources.data;
  if (!answer) return <Working text="Looking through the charts, the rack and the stores …" />;
  return (
    <div className="flex flex-col gap-3 text-lesser">
      <div className="flex items-center justify-between gap-2">
        <p>{answer.head}</p>
        <Link
          className={buttonLook()}
          to={`/wheel?ask=${encodeURIComponent(`wheel ${teeth}`)}&family=${family}`}
        >
          Sizes
        </Link>
      </div>
      <Way title="Cutter">
        <p>{answer.cutter}</p>
      </Way>
      <Way title="From bar">
        <div className="mb-1 flex items-center gap-2">
          <span className="text-soft">blanks</span>
          <Button
            look="quiet"
            aria-label="One blank less"
            disabled={blanks === 1}
            onClick={() => setBlanks(blanks - 1)}
          >
            −
          </Button>
          <b className="w-6 text-center font-mono">{blanks}</b>
          <Button
            look="quiet"
            aria-label="One blank more"
            disabled={blanks === 20}
            onClick={() => setBlanks(blanks + 1)}
          >
            +
          </Button>
        </div>
        <p>{answer.bars_text}</p>
        {answer.bars.map((bar, n) => (
          <p
            key={bar.bar}
            className={`mt-1 border-l-4 pl-2 ${n === 0 ? "border-good" : "border-line"}`}
          >
            <b>{bar.name}</b>: {bar.text}
          </p>
        ))}
      </Way>
      <Way title="A larger wheel cut down">
        {answer.donors_text && <p>{answer.donors_text}</p>}
        {answer.donors.slice(0, 4).map((donor, n) => (
          <p
            key={donor.record}
            className={`mt-1 border-l-4 pl-2 ${n === 0 ? "border-good" : "border-line"}`}
          >
            <b className="font-mono text-large">{donor.teeth}</b> {donor.text}
          </p>
        ))}
      </Way>
      <BoughtWheel family={family} />
    </div>
  );
}

function Way({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="border-t border-line pt-2">
      <h3 className="font-bold">{title}</h3>
      {children}
    </section>
  );
}

/** What a wheel bought elsewhere needs so that it goes where these go. */
function BoughtWheel({ family }: { family: number }) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState<Bought>({ bore: "", key: "", face: "", hub: "" });
  const bought = useBought(family, units);
  const wrong = refusedAt(bought.error);
  const put = (changes: Partial<Bought>) => setTyped((now) => ({ ...now, ...changes }));
  return (
    <Disclosure title="One bought elsewhere">
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          bought.mutate(typed);
        }}
      >
        <Row>
          <TextField
            label="Its bore"
            value={typed.bore}
            onChange={(bore) => put({ bore })}
            example="20 mm"
            problem={wrong("bore")}
          />
          <TextField
            label="Its keyway"
            value={typed.key}
            onChange={(key) => put({ key })}
            example="none"
            problem={wrong("key")}
          />
        </Row>
        <Row>
          <TextField
            label="Its face"
            value={typed.face}
            onChange={(face) => put({ face })}
            example="16 mm"
            problem={wrong("face")}
          />
          <TextField
            label="Its hub"
            value={typed.hub}
            onChange={(hub) => put({ hub })}
            example="none"
            problem={wrong("hub")}
          />
        </Row>
        <Button type="submit">What does it need?</Button>
      </form>
      {bought.error && !["bore", "key", "face", "hub"].some(wrong) && (
        <p role="alert" className="text-oxide">
          {bought.error.message}
        </p>
      )}
      {bought.data && (
        <div role="status" className="mt-2">
          <p>{bought.data.text}</p>
          <ol className="list-inside list-decimal">
            {bought.data.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
        </div>
      )}
    </Disclosure>
  );
}
