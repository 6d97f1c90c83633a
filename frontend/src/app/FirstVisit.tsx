import { useEffect, useState } from "react";

import { Button } from "../kit/Button";
import { HELP } from "./help";
import { HelpSketch } from "./HelpSketch";
import { type Topic, topicOf } from "./pages";
import { useKept } from "./preferences";

const isList = (kept: unknown) =>
  Array.isArray(kept) && kept.every((one) => typeof one === "string");

/** What a page is for, shown beside it on the first visit, once. It takes nothing from the page: no focus, no room. */
export function FirstVisit({ place, more }: { place: string; more: () => void }) {
  const here = topicOf(place);
  return here && <About key={here.topic} {...here} more={more} />;
}

function About({ topic, title, more }: { topic: Topic; title: string; more: () => void }) {
  const [seen, setSeen] = useKept<string[]>("helpSeen", [], isList);
  const [shown, setShown] = useState(() => !seen.includes(topic) && !seen.includes("all"));
  useEffect(() => {
    if (shown) setSeen([...seen, topic]);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- noted once, when it is first shown
  }, []);
  if (!shown) return null;
  const { says, sketch } = HELP[topic];
  return (
    <aside
      aria-label="About this page"
      className="fixed right-3 bottom-3 z-20 w-80 rounded-sm border-2 border-enamel bg-paper p-4 text-ink shadow-lg print:hidden phone:right-1.5 phone:bottom-1.5 phone:left-1.5 phone:w-auto"
    >
      <h2 className="font-bold">{title}</h2>
      <div className="my-2 phone:hidden">
        <HelpSketch sketch={sketch} />
      </div>
      {says.map((sentence) => (
        <p key={sentence} className="mt-1 text-lesser">
          {sentence}
        </p>
      ))}
      <div className="mt-3 flex gap-2">
        <Button look="main" onClick={() => setShown(false)}>
          Close
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            setShown(false);
            more();
          }}
        >
          More help
        </Button>
      </div>
    </aside>
  );
}
