import { Working } from "../kit/Working";
import { Failure } from "../app/Notice";
import { MakeLink } from "./MakeLink";

/** Which wheels are worth making for a chart, each with the way to its job. */
export function WorthList({
  worth,
  machine,
}: {
  worth: {
    data?: { head: string; wheels: { teeth: number; text: string }[] } | undefined;
    error: Error | null;
    isPending: boolean;
    share: number;
    refetch: () => unknown;
  };
  machine: string;
}) {
  return (
    <>
      {worth.error && <Failure error={worth.error} retry={() => void worth.refetch()} />}
      {worth.isPending && <Working text="Trying every wheel …" share={worth.share} />}
      {worth.data && (
        <>
          <p className="text-lesser font-bold">{worth.data.head}</p>
          <ul className="mt-1 text-lesser">
            {worth.data.wheels.map(({ teeth, text }) => (
              <li key={teeth} className="border-t border-line py-1.5">
                {text} <MakeLink teeth={teeth} machine={machine} text={`Make the ${teeth}`} quiet />
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
