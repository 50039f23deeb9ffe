// Forms of the sheet that are sent as entries, so that they wait in the outbox like a reading: finishing a visit, and what comes after it.
import { take, waitingFor } from "./outbox.js";

const WAITS = "On this device, not sent yet.";

export const formEntries = {
  startForms() {
    this.$root.addEventListener("submit", (event) => this.takeForm(event));
    this.$root.addEventListener("input", ({ target }) => {
      if (target.form?.dataset.takes && target.type !== "checkbox") this.draft.keep(`form:${target.form.id}:${target.name}`, target.value);
    });
  },
  takeForm(event) {
    const form = event.target;
    if (!form.dataset.takes) return;
    event.preventDefault();
    if (form.dataset.waits) return; // pressed twice is once
    const says = Object.fromEntries([...new FormData(form, event.submitter)].filter(([, value]) => value));
    form.dataset.waits = crypto.randomUUID();
    this.sayAtForm(form, WAITS);
    take({ id: form.dataset.waits, kind: form.dataset.takes, form: form.id, round: this.round, says, said: form.dataset.said });
  },
  // Taken: the page comes anew with it. Turned down: said beside the button, and everything is still in its field.
  heardOfForm({ form: id }, result, refused) {
    const form = document.getElementById(id);
    if (!form) return;
    delete form.dataset.waits;
    if (refused) return this.sayAtForm(form, `${result.message} ${result.hint}`.trim());
    for (const name of Object.keys(this.draft.all())) if (name.startsWith(`form:${id}:`)) this.draft.forget(name);
    location.reload();
  },
  sayAtForm(form, text) {
    const line = this.$root.querySelector(`[data-form-said="${form.id}"]`);
    if (line) [line.textContent, line.hidden] = [text, !text];
  },
  // After a reload: what was typed, and that something waits.
  async restoreForms() {
    for (const [name, text] of Object.entries(this.draft.all())) {
      const [kind, id, field] = name.split(":");
      if (kind === "form") this.fillForm(id, { [field]: text });
    }
    for (const item of await waitingFor(this.round)) {
      const form = item.form && document.getElementById(item.form);
      if (!form) continue;
      form.dataset.waits = item.id;
      this.fillForm(item.form, item.says);
      this.sayAtForm(form, WAITS);
    }
  },
  // Puts back what a form said.
  fillForm(id, says) {
    for (const [name, value] of Object.entries(says)) {
      const control = document.getElementById(id)?.elements[name];
      if (!control || control.type === "hidden" || control.type === "submit") continue;
      if (control.type === "checkbox") control.checked = true;
      else control.value = value;
      this.unfold(control instanceof RadioNodeList ? control[0] : control);
    }
  },
};
