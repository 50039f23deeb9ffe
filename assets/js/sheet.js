// The sheet: a reading is born when its field is left; what is in the fields is previewed while typing.
//
// No rule of the job is here: the server judges every value, in the preview and when it is stored.
import htmx from "htmx.org";
import { clock } from "./clock.js";
import { drafts } from "./drafts.js";
import { formEntries } from "./form-entries.js";
import { living } from "./live.js";
import { answeredSinceAsked, drop, listen, refused, take, waitingFor } from "./outbox.js";
import { offering } from "./offering.js";
import { partsOf } from "./fields.js";
import { furnish } from "./furnish.js";
import { photos } from "./photos.js";
import { undoing } from "./undo.js";
import { walking } from "./walking.js";
import { words } from "./words.js";

const SIGNS = { degF: "°F", degC: "°C", degF_diff: "°F", degC_diff: "°C" };
const SETTLED_MS = 1500;
const AIR_AT_UNIT = ["return_unit", "supply_plenum"];
const NOT_TAKEN = ["refused", "ask"];

const asking = new WeakMap(); // a request -> how many changes it answers

export function sheet() {
  return {
    ...walking,
    ...undoing,
    ...formEntries,
    ...words,
    ...living,
    ...offering,
    round: "",
    draft: null,
    form: null,
    pressing: false,
    asked: 0, // changes so far that want an answer
    missed: false,
    catchingUp: 0, // how often the server was asked what is stored
    untouched: null, // the field just entered, while nothing is typed into it
    readings: new Map(), // the reading that counts in each slot of each place, stored or on its way
    touched: new Map(), // name of a field, a select or a thing to see -> when somebody last had it in hand
    taken: new Map(), // name of a field -> when a reading was last taken from it

    init() {
      this.form = this.$root.querySelector("form.work");
      furnish(this.form);
      this.round = this.form.dataset.round;
      this.draft = drafts(this.round);
      for (const input of this.inputs()) if (input.dataset.reading) this.readings.set(this.slotOf(input), input.dataset.reading);
      this.form.addEventListener("submit", (event) => event.preventDefault());
      this.form.addEventListener("input", (event) => {
        this.due();
        this.typed(event.target);
      });
      this.form.addEventListener("focusin", (event) => this.entered(event.target));
      for (const kind of ["focusin", "pointerdown"]) this.form.addEventListener(kind, ({ target }) => this.offer(target), true);
      this.form.addEventListener("focusout", (event) => this.left(event.target));
      this.form.addEventListener("change", (event) => this.chosen(event.target));
      this.form.addEventListener("keydown", (event) => {
        this.replace(event.target);
        this.enterKey(event);
      });
      this.$root.addEventListener("click", (event) => this.clicked(event));
      const own = (listener) => ({ detail }) => detail.elt === this.form && listener(detail); // fragments within ask for themselves
      this.form.addEventListener("htmx:configRequest", own(({ parameters }) => this.describe(parameters)));
      document.addEventListener("htmx:afterSettle", ({ detail }) => {
        this.arrange();
        this.speak();
        this.stands(detail.xhr);
      });
      this.form.addEventListener("htmx:beforeRequest", own(({ xhr }) => asking.set(xhr, this.asked)));
      document.addEventListener("htmx:beforeSwap", ({ detail }) => {
        if (detail.requestConfig.elt !== this.form) return; // another part's own affair
        // A page that is no preview (signed out, server trouble) does not replace the results; the outbox says what is wrong.
        if (!detail.xhr.responseURL.endsWith("/preview/") || detail.xhr.status !== 200) detail.shouldSwap = false;
        // Nor is anything replaced under a finger: what is pressed would be gone before it is let go, and the press lost.
        if (this.pressing) [detail.shouldSwap, this.missed] = [false, true];
        if (detail.shouldSwap) this.form.elements.first.value = "false"; // what the page came without is here
      });
      for (const kind of ["pointerdown", "pointerup", "pointercancel"]) document.addEventListener(kind, (event) => this.pressed(event), true);
      addEventListener("visibilitychange", () => document.visibilityState === "visible" && this.catchUp());
      listen((event) => event.kind === "answer" && event.item.kind !== "picture" && this.answered(event));
      addEventListener("correct", () => this.correct());
      photos(this.form);
      clock(this.$root);
      this.spoken = this.verdict();
      this.startWalking();
      this.startLiving();
      this.startForms();
      this.restore();
    },

    // -- fields -------------------------------------------------------------------------------------------------------
    inputs() {
      return [...this.form.querySelectorAll("input[data-field]")];
    },
    field(name) {
      return this.form.querySelector(`input[data-field="${CSS.escape(name)}"]`);
    },
    fieldOf({ place, quantity, variant }) {
      return this.field(`${place}.${quantity}${variant ? `@${variant}` : ""}`);
    },
    // The ways to say how humid the air is replace each other.
    slotOf(input) {
      const { place, quantity, variant } = partsOf(input);
      return input.closest("[data-humidity]") ? `${place}|humidity` : `${place}|${quantity}@${variant}`;
    },
    unitOf: (input) => input.dataset.unit ?? input.dataset.ownUnit,
    stopOf: (input) => input.closest(".stop")?.dataset.stopId ?? "system",
    control(name) {
      return this.form.elements[name]?.value ?? "";
    },

    // -- typing and taking --------------------------------------------------------------------------------------------
    typed(input) {
      this.touch(input.dataset.field ?? input.name);
      if (input.dataset.remark) return this.draft.keep(`words:${input.dataset.remark}`, input.value);
      if (!input.dataset.field) return;
      if (input.value.trim() === input.dataset.stored) this.draft.forget(input.dataset.field);
      else {
        this.draft.keep(input.dataset.field, input.value);
        this.setUnit(input, input.dataset.ownUnit, false);
      }
    },
    touch(name) {
      this.touched.set(name, performance.now());
    },
    // What is typed into a field that holds a reading takes its place, as on a calculator. After the touch, which would undo it, and
    // not after the first key: what is typed quickly is not lost.
    entered(input) {
      if (!input.dataset?.field || !input.value || input.value.trim() !== input.dataset.stored) return;
      this.untouched = input;
      setTimeout(() => this.replace(input));
    },
    replace(input) {
      if (this.untouched !== input) return;
      this.untouched = null;
      if (document.activeElement === input) input.select();
    },
    left(input) {
      if (!input.dataset?.field) return;
      this.bear(input);
      this.preview();
    },
    setUnit(input, unit, confirmed) {
      Object.assign(input.dataset, { unit, confirmed: confirmed ? "true" : "" });
      const sign = input.parentElement.querySelector(".sign");
      sign.textContent = SIGNS[unit] ?? sign.textContent;
    },
    details(input) {
      const { variant, quantity, place } = partsOf(input);
      if (place === "blower" && quantity === "airflow") {
        const plane = this.control(this.planeOf(input));
        return { variant, plane, source: variant === "nominal_guess" ? "estimate" : "typed" };
      }
      if (place === "traverse" && quantity === "gross_area") return { variant, plane: this.control(this.planeOf(input)) };
      return { variant, instrument: this.control(`${this.stopOf(input)}.instrument`) };
    },
    // The select that says at which plane an airflow was taken, by its field.
    planeOf(input) {
      const { variant, place } = partsOf(input);
      if (place === "traverse") return "traverse.plane";
      return variant === "flow_device" ? "blower.plane" : `blower_${variant}.plane`;
    },
    // What of a field makes a reading a new one: the same again makes none.
    signature(input) {
      return JSON.stringify([input.value.trim(), this.unitOf(input), this.details(input)]);
    },
    bear(input, again = false, more = {}) {
      const value = input.value.trim();
      const known = input.dataset.taken ?? (value === input.dataset.stored ? input.dataset.signature : undefined);
      if (!value || (known === this.signature(input) && !again)) return;
      this.remember({ kind: "reading", name: input.dataset.field, before: this.standing(input) });
      this.takeReading(input, { value, ...this.details(input), ...more });
      input.dataset.taken = this.signature(input);
      if (AIR_AT_UNIT.includes(this.stopOf(input))) this.takeServiceAtOnce();
    },
    standing(input) {
      return { value: input.dataset.stored ?? "", unit: input.dataset.storedUnit ?? this.unitOf(input) };
    },
    takeReading(input, what) {
      const { place, quantity, variant } = partsOf(input);
      this.taken.set(input.dataset.field, performance.now());
      const item = {
        id: crypto.randomUUID(),
        kind: "reading",
        round: this.round,
        said: `${this.nameOf(input)}: ${what.value || "not possible"} ${what.value ? (SIGNS[this.unitOf(input)] ?? "") : ""}`.trim(),
        at: `${location.pathname}#${this.stopOf(input) === "system" ? "settle" : `read/${this.stopOf(input)}`}`,
        place,
        quantity,
        variant,
        unit: this.unitOf(input),
        confirmed: input.dataset.confirmed === "true",
        supersedes: this.readings.get(this.slotOf(input)) ?? "",
        ...what,
      };
      this.readings.set(this.slotOf(input), item.id);
      input.dataset.pending = item.id;
      take(item);
    },
    nameOf(input) {
      const stop = input.closest(".stop")?.dataset.name;
      const label = this.form.querySelector(`label[for="${CSS.escape(input.id)}"]`)?.textContent.trim() ?? input.getAttribute("aria-label") ?? "";
      return [stop, label.toLowerCase()].filter(Boolean).join(", ");
    },
    // 'Not possible, because': said for every empty field of the stop.
    impossible(select) {
      const reason = select.value;
      const said = new Set();
      for (const input of select.closest(".stop").querySelectorAll("input[data-field]")) {
        if (!reason || input.value.trim() || input.closest("[hidden]") || said.has(this.slotOf(input))) continue;
        said.add(this.slotOf(input));
        this.remember({ kind: "reading", name: input.dataset.field, before: { value: "", unit: input.dataset.ownUnit } });
        this.takeReading(input, { value: "", source: "not_possible", reason });
      }
      select.value = "";
    },

    // -- choosing -----------------------------------------------------------------------------------------------------
    chosen(control) {
      const name = control.name ?? "";
      this.touch(name);
      if (control.dataset.question) return this.observe(control.closest("fieldset"), control.dataset.question, control.value);
      if (control.dataset.pair !== undefined) return this.pair(control);
      if (control.dataset.impossible !== undefined) return this.impossible(control);
      if (name.endsWith(".humidity")) return this.showHumidity(control, control.value);
      const stop = control.closest(".stop");
      if (!stop || !(name.endsWith(".instrument") || name.endsWith(".plane"))) return;
      for (const input of stop.querySelectorAll("input[data-field]")) {
        const taken = input.dataset.stored !== undefined || input.dataset.taken !== undefined;
        if (input.value.trim() && taken && !input.closest("[hidden]")) this.bear(input);
      }
      this.preview();
    },
    showHumidity(control, kind) {
      for (const box of control.closest(".field").querySelectorAll("[data-humidity]")) box.hidden = box.dataset.humidity !== kind;
      this.preview();
    },
    observe(group, seen, degree) {
      const before = group?.dataset.degree ?? "";
      const id = crypto.randomUUID();
      if (group) this.remember({ kind: "sight", seen, before });
      this.touch(`see.${seen}`);
      take({ id, kind: "observation", round: this.round, seen, degree, supersedes: group?.dataset.entry ?? "", said: this.sightOf(group, degree) });
      if (group) [group.dataset.entry, group.dataset.degree] = [id, degree];
      this.preview();
    },
    sightOf(group, degree) {
      const chosen = group?.querySelector(`input[value="${CSS.escape(degree)}"]`)?.closest("label").textContent.trim();
      return group ? `${group.querySelector("legend").firstChild.textContent.trim()}: ${chosen ?? degree}` : "A caution, read";
    },
    clicked(event) {
      const at = (attribute) => event.target.closest(`[${attribute}]`);
      const unit = at("data-answer-unit");
      if (unit) return this.answerUnit(unit.dataset.answerFor, unit.dataset.answerUnit);
      if (at("data-guess")) return this.put("blower.airflow@nominal_guess", at("data-guess").dataset.guess, "CFM");
      if (at("data-as-at")) return this.asAt(at("data-as-at"));
      if (at("data-hold")) return this.holdOne(at("data-live-stop"));
      if (at("data-hold-all")) return this.holdAll();
      if (at("data-take-service")) return this.takeService(at("data-service"));
      if (at("data-same")) {
        const { same, sameValue, sameUnit } = at("data-same").dataset;
        return this.put(same, sameValue, sameUnit);
      }
      if (at("data-clock-start")) return this.put("system.running_time", "0", "min", true);
      if (at("data-has-run")) return this.hasRun(at("data-has-run").dataset);
      if (at("data-ack")) return this.acknowledge(at("data-ack"));
      if (at("data-done")) return this.done(at("data-done").dataset.done, at("data-done").dataset.doneTo);
      if (at("data-take-back")) return this.takeBack(at("data-take-back").dataset.takeBack);
      if (at("data-keep-remarks")) return this.keepRemarks();
      if (at("data-next")) return this.next();
      if (at("data-open-stop")) return this.openStop(at("data-open-stop").dataset.openStop);
      if (at("data-undo")) return this.undo();
      if (at("data-station-to")) return this.goTo(at("data-station-to").dataset.stationTo);
      if (at("data-go")) return this.goToStop(at("data-go").dataset.go);
    },
    answerUnit(name, unit) {
      const input = this.field(name);
      this.setUnit(input, unit, true);
      this.bear(input);
      this.preview();
      input.focus();
    },
    // A value that is put in a field by a tap is taken at once.
    put(name, value, unit, again = false) {
      const input = this.field(name);
      input.value = value;
      this.setUnit(input, unit, true);
      this.bear(input, again);
      this.preview();
    },
    // The same air as elsewhere: dry bulb and humidity as they were read there.
    asAt(button) {
      const stop = button.closest(".stop");
      let put = false;
      for (const input of this.stopAt(button.dataset.asAt).querySelectorAll("input[data-field]")) {
        const name = `${stop.dataset.stopId}.${partsOf(input).quantity}`;
        if (!input.value.trim() || input.closest("[hidden]") || !this.field(name)) continue;
        const kind = stop.querySelector(`select[name="${stop.dataset.stopId}.humidity"]`);
        const box = this.field(name).closest("[data-humidity]");
        if (box) this.showHumidity(kind, (kind.value = box.dataset.humidity));
        this.put(name, input.value, this.unitOf(input));
        put = true;
      }
      if (!put) this.say("Nothing is read at the unit yet.");
    },
    // Settled when we came: how long it runs at least, and what else lets a round count ("strip_heat=off"), in one tap.
    hasRun({ hasRun: minutes, seen = "" }) {
      if (minutes) this.put("system.running_time", minutes, "min", true);
      for (const [name, degree] of seen.split(" ").filter(Boolean).map((part) => part.split("="))) {
        const group = this.sight(name);
        this.observe(group, name, degree);
        this.check(name, degree, group.dataset.entry);
      }
    },
    acknowledge(button) {
      for (const id of button.dataset.ack.split(" ")) {
        for (const caution of this.$root.querySelectorAll(`[data-caution="${id}"]`)) caution.dataset.read = "";
        this.observe(null, `caution:${id}`, "read");
      }
      if (!button.closest("[data-caution]")) button.remove();
    },

    verdict() {
      return [...this.$root.querySelectorAll("#decision, #verdict .says")].map((part) => part.textContent.trim()).join(" ");
    },
    // Says the verdict aloud once, when it has been the same for a while: not at every key pressed on the way to it.
    speak() {
      const verdict = this.verdict();
      clearTimeout(this.speaking);
      if (verdict === this.spoken) return;
      this.speaking = setTimeout(() => {
        document.getElementById("verdict-said").textContent = this.spoken = verdict;
      }, SETTLED_MS);
    },

    // -- previewing and hearing back ----------------------------------------------------------------------------------
    preview() {
      this.due();
      htmx.trigger(this.form, "preview");
    },
    // The verdict is busy from the first change until the answer to the last one is there.
    due() {
      this.asked += 1;
      document.getElementById("verdict").setAttribute("aria-busy", "true");
    },
    // By the request itself: the next one may be on its way before this one's answer has settled.
    stands(request) {
      if (asking.get(request) === this.asked) document.getElementById("verdict").removeAttribute("aria-busy");
    },
    pressed({ type }) {
      this.pressing = type === "pointerdown";
      if (this.pressing || !this.missed) return;
      this.missed = false;
      setTimeout(() => this.preview()); // after the click that this press becomes
    },
    describe(parameters) {
      parameters.focused = document.activeElement?.dataset?.field ?? "";
      parameters.station = this.station;
      parameters.stop = this.stop;
      parameters.narrow = String(this.isPhone());
      for (const { dataset } of this.inputs()) {
        if (dataset.confirmed === undefined) continue; // not touched: the server knows what is stored
        parameters[`${dataset.field}.unit`] = dataset.unit;
        parameters[`${dataset.field}.confirmed`] = dataset.confirmed;
      }
    },
    answered({ item, result }) {
      if (item.round !== this.round) return;
      if (!this.isHere(item)) return this.catchUp();
      if (item.form) return this.heardOfForm(item, result, NOT_TAKEN.includes(result.status));
      if (item.kind === "reading") this.heardOfReading(item, result);
      else this.heardOfOther(item, result);
      this.preview();
    },
    // Was it entered, or put back, in this tab? Any tab may have sent it.
    isHere(item) {
      if (item.form) return document.getElementById(item.form)?.dataset.waits === item.id;
      if (item.kind === "reading") return this.fieldOf(item)?.dataset.pending === item.id;
      const group = item.seen && this.sight(item.seen);
      return !group || group.dataset.entry === item.id;
    },
    sight(seen) {
      return this.form.querySelector(`fieldset[data-sight="${CSS.escape(seen)}"]`);
    },
    heardOfReading(item, result) {
      const input = this.fieldOf(item);
      if (!input) return;
      if (NOT_TAKEN.includes(result.status)) {
        if (["probe", "weather"].includes(item.source)) this.say(`${result.message} ${result.hint}`); // nothing at the field is wrong
        delete input.dataset.taken; // refused or asked: kept in the field, not stored
        this.readings.set(this.slotOf(input), item.supersedes);
        this.draft.keep(input.dataset.field, input.value);
      } else {
        [input.dataset.stored, input.dataset.storedUnit] = [item.value, item.unit];
        if (input.value.trim() === item.value) this.draft.forget(input.dataset.field);
      }
    },
    // What was turned down is not shown as kept: words leave the list, a choice says so.
    heardOfOther(item, result) {
      const group = item.seen && this.sight(item.seen);
      group?.querySelector("[data-not-taken]")?.remove();
      if (!NOT_TAKEN.includes(result.status)) return;
      const text = `Not taken: ${result.message} ${result.hint}`;
      this.say(text);
      this.form.querySelector(`[data-remarks] [data-entry="${item.id}"]`)?.remove();
      const line = Object.assign(document.createElement("p"), { className: "message", textContent: text });
      line.dataset.notTaken = "";
      group?.append(line);
    },
    // After a reload: what waits in the outbox, then what was only typed, goes back into its field.
    async restore() {
      for (const input of this.inputs()) {
        input.dataset.signature = this.signature(input);
        input.dataset.storedUnit = this.unitOf(input);
      }
      for (const group of this.form.querySelectorAll("fieldset[data-sight]")) group.dataset.degree = group.querySelector("input:checked")?.value ?? "";
      for (const item of await waitingFor(this.round)) {
        if (item.kind === "observation") this.check(item.seen, item.degree, item.id);
        else if (item.kind === "reading") this.putBack(item);
      }
      for (const [name, text] of Object.entries(this.draft.all())) {
        if (name.startsWith("form:")) continue;
        const input = name.startsWith("words:") ? this.form.querySelector(`[data-remark="${name.slice(6)}"]`) : this.field(name);
        if (!input) continue;
        this.unfold(input); // what was typed is never out of sight
        if (document.activeElement !== input) input.value = text;
      }
      await this.restoreForms();
      this.correct();
      this.preview();
      if (await answeredSinceAsked()) this.catchUp();
    },
    // What was turned down goes back to where it was entered, as it was typed. Words leave the list with that: they are in their box again.
    async correct() {
      const item = (await refused()).find(({ id, round }) => id === sessionStorage.getItem("correct") && round === this.round);
      if (!item) return;
      sessionStorage.removeItem("correct");
      if (item.kind === "reading") {
        const input = this.fieldOf(item);
        if (!input) return;
        input.value = item.value;
        this.draft.keep(input.dataset.field, item.value);
        input.focus();
        input.select();
        return this.preview();
      }
      if (item.form) return this.fillForm(item.form, item.says);
      // A choice, or an action of the list, is made again where this leads; words go back into their box.
      const boxes = { remark: `[data-remark="${item.about}"]`, action: item.done === "other" ? "[data-done-words]" : "" };
      const box = boxes[item.kind] && this.form.querySelector(boxes[item.kind]);
      if (!box) return;
      box.value = box.value ? `${box.value}\n${item.text}` : item.text;
      if (item.kind === "remark") this.draft.keep(`words:${item.about}`, box.value);
      this.goTo(item.kind === "remark" ? "arrive" : "fix");
      this.unfold(box);
      box.focus();
      await drop(item.id);
    },
    putBack(item) {
      const input = this.fieldOf(item);
      if (!input) return;
      const stop = this.stopOf(input);
      if (item.instrument && this.form.elements[`${stop}.instrument`]) this.choose(this.form.elements[`${stop}.instrument`], item.instrument);
      if (item.plane && this.form.elements[this.planeOf(input)]) this.form.elements[this.planeOf(input)].value = item.plane;
      const box = input.closest("[data-humidity]");
      if (box) {
        const kind = box.closest(".field").querySelector("select.kind");
        kind.value = item.quantity;
        this.showHumidity(kind, item.quantity);
      }
      this.readings.set(this.slotOf(input), item.id);
      if (!item.value) return; // not possible, or undone: nothing to show in the field
      input.value = item.value;
      this.setUnit(input, item.unit, item.confirmed);
      input.dataset.taken = this.signature(input);
      input.dataset.pending = item.id;
      this.draft.forget(input.dataset.field);
    },
    check(seen, degree, id) {
      if (seen.startsWith("caution:")) {
        for (const caution of this.$root.querySelectorAll(`[data-caution="${seen.slice(8)}"]`)) caution.dataset.read = "";
        return;
      }
      const group = this.sight(seen);
      if (!group) return;
      for (const choice of group.querySelectorAll("input[type=radio]")) choice.checked = choice.value === degree;
      [group.dataset.entry, group.dataset.degree] = [id, degree];
    },
    // Another tab, or another device of the shop, has stored something: take it over where nothing is being typed here.
    async catchUp() {
      const began = performance.now();
      const mine = (this.catchingUp += 1);
      const before = await waitingFor(this.round);
      const response = await fetch(this.form.dataset.current, { headers: { Accept: "application/json" } }).catch(() => null);
      if (!response?.ok || response.redirected) return;
      const { fields, choices, observations } = await response.json();
      if (mine !== this.catchingUp) return; // asked again since: this answer may be the older one
      // What was on its way when this was asked, or taken in hand since, is newer than the answer.
      const since = (times) => [...times].filter(([, when]) => when >= began).map(([name]) => name);
      const underWay = [...before, ...(await waitingFor(this.round))].map((item) => this.fieldOf(item)?.dataset.field ?? `see.${item.seen}`);
      const newer = new Set([...underWay, ...since(this.taken)]);
      // A draft that is not in the field here is another tab's.
      const drafted = Object.entries(this.draft.all()).filter(([name, text]) => this.field(name)?.value.trim() === text.trim());
      const busy = new Set([...newer, ...since(this.touched), ...drafted.map(([name]) => name)]);
      for (const [name, value] of Object.entries(choices)) {
        const control = this.form.elements[name];
        if (!control || control === document.activeElement || !value || busy.has(name)) continue;
        this.choose(control, value);
        if (name.endsWith(".humidity")) this.showHumidity(control, value);
      }
      for (const [name, { value, unit, reading }] of Object.entries(fields)) {
        const input = this.field(name);
        if (!input || newer.has(name)) continue;
        const here = input === document.activeElement;
        const halfTyped = here && input.value.trim() !== (input.dataset.stored ?? "");
        [input.dataset.stored, input.dataset.storedUnit] = [value, unit];
        this.readings.set(this.slotOf(input), reading);
        if (busy.has(name) || halfTyped) continue; // what it will take the place of is known
        input.value = value;
        this.setUnit(input, unit, true);
        delete input.dataset.taken;
        input.dataset.signature = this.signature(input);
        if (here) this.entered(input);
      }
      for (const [seen, [degree, id]] of Object.entries(observations)) if (!busy.has(`see.${seen}`)) this.check(seen, degree, id);
      this.preview();
    },
  };
}
