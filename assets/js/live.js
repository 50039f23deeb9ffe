// Probes held to places: what they say now, and *hold*, which takes what they say as a reading.
import { partsOf } from "./fields.js";

const EVERY_MS = 1000;
const STALE_S = 10;
const HELD_VARIANTS = /^(1|flow_device|s\d+)?$/; // a clamp is round one leg; an airflow a probe says is a flow device's
const STATES = { settled: "steady", swinging: "swings", "not yet": "still moving", "too short": "just begun" };

export const living = {
  heard: [],

  startLiving() {
    setInterval(() => this.listenToProbes(), EVERY_MS);
    this.listenToProbes();
  },
  anyPaired() {
    return [...this.form.querySelectorAll("select[data-pair]")].some((select) => select.value);
  },
  async listenToProbes() {
    const looking = ["read", "air", "gauges"].includes(this.station) || this.form.querySelector("#drawing").offsetParent;
    if (document.visibilityState !== "visible" || !looking || !this.anyPaired()) return;
    const response = await fetch(this.form.dataset.live, { headers: { Accept: "application/json" } }).catch(() => null);
    if (!response?.ok || response.redirected) return;
    this.heard = (await response.json()).pairings;
    for (const box of this.form.querySelectorAll("[data-live-stop]")) this.showLive(box);
    this.showOnDrawing();
    this.form.querySelector("[data-hold-all]").hidden = this.heard.filter(this.isFresh).length < 2;
  },
  // The drawing lives: what every held probe says is shown at its spot.
  showOnDrawing() {
    const said = new Map(this.heard.flatMap((p) => p.channels.map((channel) => [`${p.place}|${channel.channel}`, channel])));
    for (const spot of this.form.querySelectorAll("[data-live-at]")) {
      const channel = said.get(spot.dataset.liveAt);
      spot.textContent = channel && channel.age <= STALE_S ? channel.text : "";
    }
  },
  pairingOf(box) {
    const { liveStop: stop, livePlace: place } = box.dataset;
    return this.heard.find((p) => p.place === place && (p.stop === stop || stop.startsWith("step_"))); // the clamps of the walk stay where they are
  },
  // The channels of a pairing that this stop has a field for, each with its field.
  fieldsOf(box) {
    const fields = [...box.closest(".stop").querySelectorAll("input[data-field]")].map((input) => ({ input, ...partsOf(input) }));
    return (this.pairingOf(box)?.channels ?? [])
      .map((channel) => ({ channel, input: fields.find((f) => f.place === box.dataset.livePlace && f.quantity === channel.channel && HELD_VARIANTS.test(f.variant))?.input }))
      .filter(({ input }) => input);
  },
  showLive(box) {
    const found = this.fieldsOf(box);
    const says = found.map(({ channel }) => `${channel.text} ${channel.sign}`).join(" · ");
    const first = found[0]?.channel;
    const old = first && first.age > STALE_S;
    const state = first ? (old ? `silent for ${Math.round(first.age)} s` : `${STATES[first.state]}, ${Math.round(first.age)} s ago`) : "";
    box.querySelector("[data-live-says]").textContent = first ? `${says} · ${state}` : this.pairingOf(box) ? "nothing heard yet" : "";
    box.querySelector("[data-hold]").hidden = !first || old;
    box.querySelector("[data-live-trace]").setAttribute("points", first ? points(first.trace) : "");
  },
  isFresh: (pairing) => pairing.channels.length > 0 && pairing.channels[0].age <= STALE_S,
  holdOne(box) {
    this.hold(box);
    this.preview();
  },
  // Everything at the same moment: what belongs together is read together.
  holdAll() {
    const fresh = [...this.form.querySelectorAll(".stop:not(.own) [data-live-stop]")].filter((box) => this.pairingOf(box) && this.isFresh(this.pairingOf(box)));
    for (const box of fresh) this.hold(box);
    this.say(`${fresh.length} probes held.`);
    this.preview();
  },
  hold(box) {
    const pairing = this.pairingOf(box);
    for (const { channel, input } of this.fieldsOf(box)) {
      const kind = input.closest("[data-humidity]") && input.closest(".field").querySelector("select.kind");
      if (kind) {
        kind.value = channel.channel;
        this.showHumidity(kind, channel.channel);
      }
      input.value = channel.hold; // of a swing the mean
      this.setUnit(input, channel.unit, true);
      this.bear(input, true, { source: "probe", probe: pairing.probe });
    }
  },
  // What the weather service says of outdoors, taken in place of a reading and stored as that.
  takeService(box) {
    for (const said of box.querySelectorAll("data")) {
      const input = this.field(said.dataset.serviceField);
      input.value = said.value;
      this.setUnit(input, said.dataset.unit, true);
      this.bear(input, true, { source: "weather", instrument: "" });
    }
    this.preview();
  },
  // With the first air that is read at the unit the weather service stands in for the outdoor air; what is read outdoors takes its place.
  takeServiceAtOnce() {
    const box = this.form.querySelector("[data-service][data-at-once]");
    if (!box || [...box.closest(".stop").querySelectorAll("input[data-field]")].some((input) => input.value.trim())) return;
    box.removeAttribute("data-at-once");
    this.takeService(box);
  },
  async pair(select) {
    const box = select.closest("[data-live-stop]");
    const body = new FormData();
    for (const [key, value] of Object.entries({ stop: box.dataset.liveStop, place: box.dataset.livePlace, probe: select.value })) body.append(key, value);
    const response = await fetch(this.form.dataset.pair, { method: "POST", headers: { "X-CSRFToken": document.body.dataset.csrf }, body }).catch(() => null);
    if (!response?.ok) return this.say("The probe could not be held here: no connection.");
    for (const other of this.form.querySelectorAll("select[data-pair]")) if (other !== select && other.value === select.value) other.value = "";
    this.heard = [];
    this.showLive(box);
    this.listenToProbes();
  },
};

function points(trace) {
  const low = Math.min(...trace);
  const span = Math.max(Math.max(...trace) - low, 0.2);
  return trace.map((value, index) => `${(120 * index) / Math.max(trace.length - 1, 1)},${26 - (24 * (value - low)) / span}`).join(" ");
}
