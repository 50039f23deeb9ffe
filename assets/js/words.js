// What is said in words, and what was done: entries like any other.
import { take } from "./outbox.js";

export const words = {
  keepRemarks() {
    const list = this.form.querySelector("[data-remarks]");
    for (const box of this.form.querySelectorAll("[data-remark]")) {
      const text = box.value.trim();
      if (!text) continue;
      take({ id: crypto.randomUUID(), kind: "remark", round: this.round, about: box.dataset.remark, text });
      const line = document.createElement("p");
      line.textContent = text;
      list.append(line);
      box.value = "";
      this.draft.forget(`words:${box.dataset.remark}`);
    }
  },
  // to: what something was set to, such as a blower's tap.
  done(what, to = "") {
    const box = this.form.querySelector("[data-done-words]");
    const text = what === "other" ? box.value.trim() : to;
    if (what === "other" && !text) return box.focus();
    take({ id: crypto.randomUUID(), kind: "action", round: this.round, done: what, text });
    if (what === "other") box.value = "";
  },
  takeBack(id) {
    take({ id: crypto.randomUUID(), kind: "action", round: this.round, done: "withdrawn", supersedes: id });
  },
};
