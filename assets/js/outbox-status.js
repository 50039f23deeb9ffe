// The words in the corner: all sent, or how many wait and why.
import { listen } from "./outbox.js";

export function outboxStatus() {
  return {
    text: "All sent",
    waiting: false,
    init() {
      listen((event) => {
        if (event.kind !== "state") return;
        this.waiting = event.waiting > 0;
        this.text = event.waiting ? `${event.waiting} unsent${event.trouble ? `: ${event.trouble}` : ""}` : "All sent";
      });
    },
  };
}
