// The sheet: a reading is born when its field is left; what stands in the fields is previewed while typing.
//
// No rule of the job is here: the server judges every value, in the preview and when it is stored.
import htmx from "htmx.org";
import { drafts } from "./drafts.js";
import { listen, take, waitingFor } from "./outbox.js";

const STEPS = ["system", "outdoor", "return_unit", "blower", "supply_plenum", "result"];

export function sheet() {
  return {
    step: "system",
    round: "",
    draft: null,
    form: null,

    init() {
      this.form = this.$root.querySelector("form");
      this.round = this.form.dataset.round;
      this.draft = drafts(this.round);
      this.form.addEventListener("submit", (event) => event.preventDefault());
      this.form.addEventListener("input", (event) => this.typed(event.target));
      this.form.addEventListener("focusout", (event) => this.left(event.target));
      this.form.addEventListener("change", (event) => this.chosen(event.target));
      this.form.addEventListener("keydown", (event) => this.key(event));
      this.$root.addEventListener("click", (event) => this.clicked(event));
      this.form.addEventListener("htmx:configRequest", (event) => this.describeFocus(event.detail));
      this.form.addEventListener("htmx:beforeSwap", ({ detail }) => {
        // A page that is no preview (signed out, server trouble) does not replace the results; the outbox says what is wrong.
        if (!detail.xhr.responseURL.endsWith("/preview/") || detail.xhr.status !== 200) detail.shouldSwap = false;
      });
      addEventListener("visibilitychange", () => document.visibilityState === "visible" && this.catchUp());
      listen((event) => event.kind === "answer" && this.answered(event));
      this.restore();
    },

    // -- walking ------------------------------------------------------------------------------------------------------
    next() {
      this.show(STEPS[Math.min(STEPS.indexOf(this.step) + 1, STEPS.length - 1)]);
    },
    show(step) {
      this.step = step;
      this.$nextTick(() => {
        scrollTo({ top: 0 });
        const field = this.form.querySelector(`[data-place="${step}"] input[inputmode]:not([hidden])`);
        field?.focus();
      });
    },
    onePlaceAtATime() {
      return this.$root.querySelector(".steps").offsetParent !== null;
    },
    key(event) {
      if (event.key !== "Enter" || !event.target.matches("input[data-field]")) return;
      event.preventDefault();
      const visible = [...this.form.querySelectorAll("input[data-field]")].filter((el) => el.offsetParent !== null);
      const following = visible[visible.indexOf(event.target) + 1];
      if (following) following.focus();
      else {
        event.target.blur();
        if (this.onePlaceAtATime()) this.next();
      }
    },

    // -- typing and taking --------------------------------------------------------------------------------------------
    field(name) {
      return this.form.querySelector(`input[data-field="${name}"]`);
    },
    typed(input) {
      if (!input.dataset.field) return;
      if (input.value.trim() === input.dataset.stored) this.draft.forget(input.dataset.field);
      else {
        this.draft.keep(input.dataset.field, input.value);
        this.setUnit(input, input.dataset.engineUnit, false);
      }
    },
    left(input) {
      if (!input.dataset?.field) return;
      this.bear(input);
      this.preview();
    },
    setUnit(input, unit, confirmed) {
      const name = input.dataset.field;
      this.form.elements[`${name}.unit`].value = unit;
      this.form.elements[`${name}.confirmed`].value = confirmed ? "true" : "";
      const sign = this.form.querySelector(`[data-sign="${name}"]`);
      sign.textContent = { degF: "°F", degC: "°C" }[unit] ?? sign.textContent;
    },
    details(input) {
      const place = input.dataset.field.split(".")[0];
      const value = (name) => this.form.elements[name]?.value ?? "";
      if (input.dataset.field === "blower.airflow") {
        const method = value("blower.method");
        return { method, plane: value("blower.plane"), source: method === "nominal_guess" ? "estimate" : "typed" };
      }
      return { instrument: value(`${place}.instrument`) };
    },
    // What of a field makes a reading a new one: the same again makes none.
    signature(input) {
      const unit = this.form.elements[`${input.dataset.field}.unit`].value;
      return JSON.stringify([input.value.trim(), unit, this.details(input)]);
    },
    bear(input) {
      const name = input.dataset.field;
      const value = input.value.trim();
      if (!value || input.dataset.taken === this.signature(input)) return;
      const unchanged = value === input.dataset.stored && !input.dataset.taken;
      if (unchanged && input.dataset.signature === this.signature(input)) return;
      const [place, quantity] = name.split(".");
      const id = crypto.randomUUID();
      const supersedes = this.slotReading(place, quantity);
      input.dataset.taken = this.signature(input);
      input.dataset.pending = id;
      this.setSlotReading(place, input.dataset.slot, id);
      take({
        id,
        kind: "reading",
        round: this.round,
        place,
        quantity,
        value,
        unit: this.form.elements[`${name}.unit`].value,
        confirmed: this.form.elements[`${name}.confirmed`].value === "true",
        supersedes,
        ...this.details(input),
      });
    },
    // The reading this one replaces: the last one in the same slot, stored or on its way.
    slotReading(place, quantity) {
      const block = this.form.querySelector(`[data-place="${place}"]`);
      const slot = this.field(`${place}.${quantity}`).dataset.slot;
      return block.dataset[`reading${slot}`] ?? "";
    },
    setSlotReading(place, slot, id) {
      const block = this.form.querySelector(`[data-place="${place}"]`);
      block.dataset[`reading${slot}`] = id ?? "";
    },

    // -- choosing -----------------------------------------------------------------------------------------------------
    chosen(control) {
      const name = control.name ?? "";
      if (control.dataset.question) return this.observe(control);
      if (name.endsWith(".humidity")) return this.showHumidity(name.split(".")[0], control.value);
      if (name === "blower.method") this.form.elements["blower.plane"].value = control.selectedOptions[0].dataset.plane;
      const place = name.split(".")[0];
      for (const input of this.form.querySelectorAll(`[data-place="${place}"] input[data-field]`)) {
        const taken = input.dataset.stored !== undefined || input.dataset.taken !== undefined;
        if (input.value.trim() && taken && !input.closest("[hidden]")) this.bear(input);
      }
      this.preview();
    },
    showHumidity(place, kind) {
      for (const box of this.form.querySelectorAll(`[data-place="${place}"] [data-humidity]`)) {
        box.hidden = box.dataset.humidity !== kind;
      }
      this.preview();
    },
    observe(control) {
      const group = control.closest("fieldset");
      const id = crypto.randomUUID();
      take({
        id,
        kind: "observation",
        round: this.round,
        seen: control.dataset.question,
        degree: control.value,
        supersedes: group.dataset.entry ?? "",
      });
      group.dataset.entry = id;
      this.preview();
    },
    clicked(event) {
      const unit = event.target.closest("[data-answer-unit]");
      if (unit) return this.answerUnit(unit.dataset.answerFor, unit.dataset.answerUnit);
      if (event.target.closest("[data-guess]")) this.guess(event.target.closest("[data-guess]").dataset.guess);
    },
    answerUnit(name, unit) {
      const input = this.field(name);
      this.setUnit(input, unit, true);
      this.bear(input);
      this.preview();
      input.focus();
    },
    guess(cfm) {
      const method = this.form.elements["blower.method"];
      method.value = "nominal_guess";
      this.form.elements["blower.plane"].value = method.selectedOptions[0].dataset.plane;
      const input = this.field("blower.airflow");
      input.value = cfm;
      this.bear(input);
      this.preview();
    },

    // -- previewing and hearing back ----------------------------------------------------------------------------------
    preview() {
      htmx.trigger(this.form, "preview");
    },
    describeFocus(detail) {
      detail.parameters.focused = document.activeElement?.dataset?.field ?? "";
    },
    answered({ item, result, elsewhere }) {
      if (item.round !== this.round) return;
      if (elsewhere) return this.catchUp();
      if (item.kind === "reading") {
        const name = `${item.place}.${item.quantity}`;
        const input = this.field(name);
        if (["stored", "duplicate"].includes(result.status)) {
          input.dataset.stored = item.value;
          if (input.value.trim() === item.value) this.draft.forget(name);
        } else if (input.dataset.pending === item.id) {
          delete input.dataset.taken; // refused or asked: kept in the field, not stored
          this.setSlotReading(item.place, input.dataset.slot, item.supersedes);
          this.draft.keep(name, input.value);
        }
      }
      this.preview();
    },
    // After a reload: what waits in the outbox, then what was only typed, goes back into its field.
    async restore() {
      for (const input of this.form.querySelectorAll("input[data-field]")) input.dataset.signature = this.signature(input);
      for (const item of await waitingFor(this.round)) {
        if (item.kind === "observation") this.check(item.seen, item.degree, item.id);
        else this.put(item);
      }
      for (const [name, text] of Object.entries(this.draft.all())) {
        const input = this.field(name);
        if (input && document.activeElement !== input) input.value = text;
      }
      this.preview();
    },
    put(item) {
      const name = `${item.place}.${item.quantity}`;
      const input = this.field(name);
      if (!input) return;
      const details = { method: "blower.method", plane: "blower.plane", instrument: `${item.place}.instrument` };
      for (const [key, control] of Object.entries(details)) {
        if (item[key] && this.form.elements[control]) this.form.elements[control].value = item[key];
      }
      const kind = this.form.elements[`${item.place}.humidity`];
      if (kind && input.closest("[data-humidity]")) {
        kind.value = item.quantity;
        this.showHumidity(item.place, item.quantity);
      }
      input.value = item.value;
      this.setUnit(input, item.unit, item.confirmed);
      input.dataset.taken = this.signature(input);
      input.dataset.pending = item.id;
      this.setSlotReading(item.place, input.dataset.slot, item.id);
      this.draft.forget(name);
    },
    check(seen, degree, id) {
      const choice = this.form.querySelector(`input[data-question="${seen}"][value="${degree}"]`);
      if (!choice) return;
      choice.checked = true;
      choice.closest("fieldset").dataset.entry = id;
    },
    // Another tab, or another device of the shop, has stored something: take it over where nothing is being typed here.
    async catchUp() {
      const response = await fetch(this.form.dataset.current, { headers: { Accept: "application/json" } }).catch(() => null);
      if (!response?.ok || response.redirected) return;
      const { fields, choices, observations } = await response.json();
      const waiting = await waitingFor(this.round);
      const busy = new Set([...waiting.map((item) => `${item.place}.${item.quantity}`), ...Object.keys(this.draft.all())]);
      for (const [name, value] of Object.entries(choices)) {
        const control = this.form.elements[name];
        if (!control || control === document.activeElement || !value) continue;
        control.value = value;
        if (name.endsWith(".humidity")) this.showHumidity(name.split(".")[0], value);
      }
      for (const [name, { value, unit, reading }] of Object.entries(fields)) {
        const input = this.field(name);
        if (!value || busy.has(name) || input === document.activeElement) continue;
        input.value = input.dataset.stored = value;
        this.setUnit(input, unit, true);
        delete input.dataset.taken;
        input.dataset.signature = this.signature(input);
        this.setSlotReading(name.split(".")[0], input.dataset.slot, reading);
      }
      for (const [seen, [degree, id]] of Object.entries(observations)) this.check(seen, degree, id);
      this.preview();
    },
  };
}
