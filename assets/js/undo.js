// Undo: the last entry of this page is answered by another entry. Nothing stored is ever changed.
import { take } from "./outbox.js";

const SAID_FOR_MS = 8000;

export const undoing = {
  done_here: [],

  remember(entry) {
    this.done_here.push(entry);
  },
  undo(event) {
    event?.preventDefault();
    document.activeElement?.matches?.("input[data-field]") && document.activeElement.blur();
    const last = this.done_here.pop();
    if (!last) return this.say("There is nothing left to undo on this page.");
    if (last.kind === "reading") this.undoReading(last);
    else this.undoSight(last);
    this.preview();
  },
  undoReading({ name, before }) {
    const input = this.field(name);
    input.value = before.value;
    this.setUnit(input, before.unit, true);
    if (before.value) {
      this.takeReading(input, { value: before.value, ...this.details(input) });
      input.dataset.taken = this.signature(input);
    } else {
      this.takeReading(input, { value: "", source: "withdrawn" });
      delete input.dataset.taken;
      input.dataset.stored = "";
      this.draft.forget(name);
    }
    this.say(before.value ? `Back to ${before.value}.` : "Undone.");
  },
  undoSight({ seen, before }) {
    const group = this.sight(seen);
    const id = crypto.randomUUID();
    take({ id, kind: "observation", round: this.round, seen, degree: before || "withdrawn", supersedes: group.dataset.entry ?? "", said: this.sightOf(group, before || "no answer") });
    this.check(seen, before, id);
    this.say(before ? "Back to what it was." : "Undone.");
  },
  say(text) {
    const line = document.getElementById("said");
    line.textContent = text;
    clearTimeout(this.saying);
    this.saying = setTimeout(() => (line.textContent = ""), SAID_FOR_MS);
  },
};
