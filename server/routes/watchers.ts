import type { Response } from "express";
import { Problem } from "#core";
import type { Benches } from "../benches/benches.ts";

const KEEP_ALIVE_MS = 15_000;
/** More than a shop has screens. */
const MOST_PER_RUN = 40;
export const MOST_PER_ADDRESS = 12;
/** A page that takes nothing for so long a text is let go; it asks for the rest when it is back. */
const MOST_UNREAD_BYTES = 1 << 20;

interface Watched {
  pages: Map<Response, string>;
  stop: (() => void) | undefined;
}

const tooMany = (where: string): Problem =>
  new Problem({
    code: "too-many-watchers",
    what: `As many pages follow this run ${where} as may.`,
    remedy: "Close one of them; its figures can be asked for at any time with /rows.",
  });

/** Server-sent events of live runs: each run is listened to once, and what it says is written out once for all pages that follow it. */
export class Watchers {
  readonly #runs = new Map<string, Watched>();

  constructor(private readonly benches: Benches) {}

  /** @throws Problem `not-found`, `too-many-watchers` */
  async follow(id: string, response: Response): Promise<void> {
    const address = response.req.socket.remoteAddress ?? "";
    this.#needRoom(id, address);
    const first = await this.benches.read(id);
    this.#needRoom(id, address);
    const watched = this.#runs.get(id) ?? { pages: new Map<Response, string>(), stop: undefined };
    this.#runs.set(id, watched);
    watched.pages.set(response, address);
    response.on("close", () => this.#leave(id, watched, response));
    response.set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store", "X-Accel-Buffering": "no" });
    response.flushHeaders();
    response.write(eventOf("state", first));
    if (!watched.stop) this.#listen(id, watched);
  }

  #needRoom(id: string, address: string): void {
    const pages = this.#runs.get(id)?.pages ?? new Map<Response, string>();
    if (pages.size >= MOST_PER_RUN) throw tooMany("already");
    const own = [...pages.values()].filter((one) => one === address).length;
    if (own >= MOST_PER_ADDRESS) throw tooMany("from this address already");
  }

  #listen(id: string, watched: Watched): void {
    const stopListening = this.benches.listen(id, (told) =>
      say(
        watched,
        told.kind === "rows" ? eventOf("rows", { rows: told.rows, upToS: told.upToS }) : eventOf("state", told.live),
      ),
    );
    const alive = setInterval(() => say(watched, ": here\n\n"), KEEP_ALIVE_MS);
    watched.stop = () => {
      clearInterval(alive);
      stopListening?.();
    };
  }

  #leave(id: string, watched: Watched, response: Response): void {
    watched.pages.delete(response);
    if (watched.pages.size > 0) return;
    watched.stop?.();
    watched.stop = undefined;
    if (this.#runs.get(id) === watched) this.#runs.delete(id);
  }
}

const eventOf = (event: string, data: unknown): string => `event: ${event}\ndata: ${JSON.stringify(data)}\n\n`;

function say({ pages }: Watched, text: string): void {
  for (const page of pages.keys()) {
    if (page.writableLength > MOST_UNREAD_BYTES) page.destroy();
    else page.write(text);
  }
}
