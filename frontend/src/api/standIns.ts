/** Stand-ins for devices, played in this page: each speaks its lines over the server's port for devices. */
import { answered, api, Refusal, type Schemas } from "./client";
import { Shared } from "./shared";

export type Sort = Schemas["DeviceOut"]["sort"];
export type On = NonNullable<Schemas["DeviceOut"]["on"]>;

// ms between two times that lines are sent, and after which the page says that it is still there.
const [SEND, STILL_THERE] = [160, 8000];
// Lines at once, and lines that wait while the server is away: a device tells where it is, not where it was.
const [MOST, MOST_WAITING] = [50, 200];

/** The stand-ins of this page. */
export const standIns = new Shared<readonly StandIn[]>([]);

/** One that is connected. number: of the device in the list. */
export class StandIn {
  /** What is wrong with it; empty for nothing. */
  readonly trouble = new Shared("");
  private waiting: string[] = [];
  private sending = false;
  private sentAt = performance.now();
  private readonly timer = window.setInterval(() => void this.send(), SEND);

  constructor(
    private readonly id: string,
    readonly number: number,
    readonly sort: Sort,
    readonly on: On,
  ) {}

  /** Say a line, soon. */
  say(line: object) {
    this.waiting.push(JSON.stringify(line));
    if (this.waiting.length > MOST_WAITING) this.waiting.shift();
  }

  stop() {
    clearInterval(this.timer);
    standIns.set(standIns.get().filter((one) => one !== this));
    const path = { name: this.id };
    // Also while the page goes away.
    void api.DELETE("/api/devices/stand-ins/{name}", { params: { path }, keepalive: true });
  }

  private async send() {
    const quiet = !this.waiting.length && performance.now() - this.sentAt < STILL_THERE;
    if (this.sending || quiet) return;
    this.sending = true;
    const lines = this.waiting.slice(0, MOST);
    try {
      const { answers } = await answered(
        api.POST("/api/devices/stand-ins/{name}/lines", {
          params: { path: { name: this.id } },
          body: { lines },
        }),
      );
      this.waiting.splice(0, lines.length);
      this.trouble.set(answers.map(refused).join(" "));
    } catch (error) {
      if (error instanceof Refusal) clearInterval(this.timer);
      this.trouble.set(error instanceof Error ? error.message : "");
    }
    this.sentAt = performance.now();
    this.sending = false;
  }
}

function refused(answer: string): string {
  const reply: unknown = JSON.parse(answer);
  return typeof reply === "object" && reply && "refused" in reply ? String(reply.refused) : "";
}

addEventListener("pagehide", () => standIns.get().forEach((one) => one.stop()));

/** Connect one more. */
export async function startStandIn(sort: Sort, on: On = "crank") {
  const { stand_in, number } = await answered(
    api.POST("/api/devices/stand-ins", { body: { sort, on } }),
  );
  standIns.set([...standIns.get(), new StandIn(stand_in, number, sort, on)]);
}
