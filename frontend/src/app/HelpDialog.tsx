import { Button } from "../kit/Button";
import { Checkbox } from "../kit/Checkbox";
import { DialogFrame } from "../kit/DialogFrame";
import { HELP } from "./help";
import { HelpSketch } from "./HelpSketch";
import { keysAt } from "./keys";
import { MEANINGS } from "./meanings";
import { topicOf } from "./pages";
import { usePreferences } from "./preferences";

/** What the page is for, what its words mean, and which keys do something on it. */
export function HelpDialog({ place, close }: { place: string; close: () => void }) {
  const { keys, setKeys, keysWrite, setKeysWrite } = usePreferences();
  const here = topicOf(place);
  const help = here && HELP[here.topic];
  return (
    <DialogFrame title={here ? `Help: ${here.title}` : "Help"} close={close} wide="max-w-3xl">
      <div className="mt-3 grid grid-cols-2 gap-x-8 gap-y-4 phone:grid-cols-1">
        {help && (
          <section aria-label="What it is for">
            <HelpSketch sketch={help.sketch} />
            {help.says.map((sentence) => (
              <p key={sentence} className="mt-2">
                {sentence}
              </p>
            ))}
            <h3 className="mt-4 font-bold">Words</h3>
            <dl className="text-lesser">
              {help.words.map((term) => (
                <div key={term} className="mt-1">
                  <dt className="inline font-bold">{term}: </dt>
                  <dd className="inline">{MEANINGS.get(term)}</dd>
                </div>
              ))}
            </dl>
          </section>
        )}
        <section aria-label="Keys">
          <h3 className="font-bold">Keys</h3>
          <dl className="mt-2 grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1.5">
            {keysAt(here?.topic).map(({ key, does }) => (
              <div key={`${key} ${does}`} className="contents">
                <dt>
                  <kbd className="inline-block min-w-9 rounded-sm border border-line bg-chalk px-2 text-center font-mono font-bold">
                    {key}
                  </kbd>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <p className="mt-3 text-lesser text-soft">
            Single keys do nothing while you are in a field, a list or a dialog. Esc leaves the
            field.
          </p>
          <Checkbox label="Use single keys" ticked={keys} change={setKeys} />
          <Checkbox
            label="Single keys may change the record (m, z)"
            ticked={keysWrite}
            change={setKeysWrite}
          />
        </section>
      </div>
      <Button look="main" className="mt-4 self-start" onClick={close} autoFocus>
        Close
      </Button>
    </DialogFrame>
  );
}
