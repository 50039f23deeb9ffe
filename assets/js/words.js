// What is said in words, and what was done: entries like any other.
import { take } from "./outbox.js";

export const words = {
  keepRemarks() {
    const list = this.form.querySelector("[data-remarks]");
    for (const box of this.form.querySelectorAll("[data-remark]")) {
      const text = box.value.trim();
      if (!text) continue;
      const id = crypto.randomUUID();
      take({ id, kind: "remark", round: this.round, about: box.dataset.remark, text, said: `Words: ${text}` });
      const line = document.createElement("p");
      line.textContent = text;
      line.dataset.entry = id;
      list.append(line);
      box.value = "";
      this.draft.forget(`words:${box.dataset.remark}`);
    }
  },
  // to: what something was set to, such as a blower's tap; else the words about it, where some were typed.
  done(what, to = "") {
    const box = this.form.querySelector(what === "other" ? "[data-done-words]" : "[data-done-detail]");
    const text = to || box.value.trim();
    if (what === "other" && !text) return box.focus();
    const label = this.form.querySelector(`[data-done="${what}"]${to && `[data-done-to="${CSS.escape(to)}"]`}`)?.textContent.trim();
    take({ id: crypto.randomUUID(), kind: "action", round: this.round, done: what, text, said: `Done: ${what === "other" ? text : label}` });
    if (!to) box.value = "";
  },
  takeBack(id) {
    take({ id: crypto.randomUUID(), kind: "action", round: this.round, done: "withdrawn", supersedes: id, said: "An action, marked as not done" });
  },
};
