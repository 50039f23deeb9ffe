// Walking the sheet: stations, and the stops of the walk, with the keyboard, the drawing, or *next*.
import { partsOf } from "./fields.js";
import { singleKeysWork } from "./keys.js";

const STATIONS = ["arrive", "settle", "read", "air", "judge", "fix", "close"]; // by key 1 to 7; gauges, when it is there, by g
const PHONE = matchMedia("(max-width: 819px)");

export const walking = {
  station: "arrive",
  stop: "",
  waited: new Set(), // stops that waited for their side of the house: read there, they keep that place in the walk

  startWalking() {
    const [station, stop] = location.hash.slice(1).split("/");
    this.stop = this.stopAt(stop) ? stop : this.$root.dataset.stop;
    const walk = this.list("done");
    this.goTo(this.stations().includes(station) ? station : walk.length ? "read" : "arrive", false);
    document.addEventListener("keydown", (event) => this.singleKey(event));
    addEventListener("hashchange", () => {
      const [to, at] = location.hash.slice(1).split("/");
      if (at && at !== this.stop && this.stopAt(at)) this.stop = at;
      if (this.stations().includes(to) && (to !== this.station || at)) this.goTo(to, false);
      if (to === "settle" && at) this.lookAt(at);
    });
    PHONE.addEventListener("change", () => this.preview());
  },
  stations() {
    return [...this.$root.querySelectorAll("[data-station-to]")].map((button) => button.dataset.stationTo);
  },
  isPhone: () => PHONE.matches,
  list(name) {
    return (document.getElementById("walk").dataset[name] ?? "").split(" ").filter(Boolean);
  },
  stops() {
    return [...this.form.querySelectorAll(".stop:not(.own)")];
  },
  stopAt(id) {
    return this.form.querySelector(`.stop[data-stop-id="${CSS.escape(id ?? "")}"]`);
  },
  // The stops *next* walks: all but the quiet ones, and the one we are at. Where the weather service stands in, one
  // reads when one is there: first on its own side of the house.
  walked() {
    const quiet = new Set(this.list("quiet"));
    for (const id of this.list("later")) this.waited.add(id);
    const walked = this.stops().filter((stop) => !quiet.has(stop.dataset.stopId) || stop.dataset.stopId === this.stop);
    const waits = (stop) => this.waited.has(stop.dataset.stopId);
    const side = (stop) => stop.dataset.side;
    const first = walked.findIndex((stop) => !waits(stop) && walked.some((other) => waits(other) && side(other) === side(stop)));
    const now = walked.filter((stop) => !waits(stop));
    const at = first < 0 ? now.length : now.indexOf(walked[first]);
    return [...now.slice(0, at), ...walked.filter(waits), ...now.slice(at)];
  },
  step(by) {
    const stops = this.walked();
    return stops[stops.findIndex((stop) => stop.dataset.stopId === this.stop) + by];
  },
  next() {
    const following = this.station === "read" ? this.step(1) : null;
    if (following) return this.goToStop(following.dataset.stopId);
    const stations = this.stations();
    this.goTo(stations[Math.min(stations.indexOf(this.station) + 1, stations.length - 1)]);
  },
  goToStop(id) {
    if (!this.stopAt(id)) return id === "system" ? this.goTo("settle") : undefined;
    if (this.stopAt(id).matches(".own")) return this.goTo("gauges");
    this.stop = id;
    this.goTo("read");
  },
  unfold(part) {
    if (part?.closest("details")) part.closest("details").open = true;
  },
  // A thing to look at, out of its fold.
  lookAt(sight) {
    const group = this.sight(sight);
    this.unfold(group);
    group?.scrollIntoView({ block: "center" });
    group?.querySelector("input")?.focus({ preventScroll: true });
  },
  // A way to the airflow that is no place of the walk: shown at the air station when asked for.
  openStop(id) {
    const stop = this.stopAt(id);
    stop.removeAttribute("data-extra");
    stop.querySelector("input[data-field]").focus();
  },
  goTo(station, focus = true) {
    this.station = station;
    this.$root.dataset.station = station;
    history.replaceState(null, "", `#${station}${station === "read" ? `/${this.stop}` : ""}`);
    this.arrange();
    this.preview();
    if (!focus) return;
    scrollTo({ top: 0 });
    const field = station === "read" && this.stopAt(this.stop)?.querySelector("input[data-field]:not([hidden] *)");
    if (field) field.focus({ preventScroll: true });
    else this.$root.querySelector(`[data-station-to="${station}"]`)?.focus({ preventScroll: true });
  },
  // Puts marks of where we are on what the server has drawn anew.
  arrange() {
    this.showOnDrawing();
    for (const button of this.$root.querySelectorAll("[data-station-to]")) {
      if (button.dataset.stationTo === this.station) button.setAttribute("aria-current", "step");
      else button.removeAttribute("aria-current");
    }
    for (const stop of this.stops()) stop.toggleAttribute("data-here", stop.dataset.stopId === this.stop);
    for (const spot of this.$root.querySelectorAll(".spot")) {
      spot.classList.toggle("current", this.station === "read" && spot.dataset.go === this.stop);
    }
    const following = this.step(1);
    for (const button of this.stopAt(this.stop)?.querySelectorAll("[data-next]") ?? []) {
      button.textContent = `Next: ${following ? following.dataset.name.toLowerCase() : "air"}`;
    }
  },

  // -- keys ---------------------------------------------------------------------------------------------------------
  enterKey(event) {
    if (event.key !== "Enter" || !event.target.matches("input[data-field]")) return;
    event.preventDefault();
    const visible = this.inputs().filter((input) => input.offsetParent !== null);
    const following = visible.slice(visible.indexOf(event.target) + 1).find((input) => !this.readAnotherWay(input, visible));
    if (following) return following.focus();
    event.target.blur();
    if (this.station === "read") this.next();
  },
  // Once the flow device gave the airflow, the other ways to it need not be passed by.
  readAnotherWay(input, inputs) {
    const isAirflow = (other) => partsOf(other).quantity === "airflow" && partsOf(other).place === partsOf(input).place;
    return isAirflow(input) && !input.value && inputs.some((other) => isAirflow(other) && other.value);
  },
  singleKey(event) {
    const spot = event.target.closest?.(".spot");
    if (spot && (event.key === "Enter" || event.key === " ")) {
      event.preventDefault();
      return this.goToStop(spot.dataset.go);
    }
    if (event.altKey && event.key.toLowerCase() === "z") return this.undo(event);
    if (event.altKey && event.key.toLowerCase() === "s") return event.target.closest?.(".field")?.querySelector("[data-same]")?.click();
    if (event.key === "Escape" && event.target.matches?.("input, select, textarea")) return event.target.blur();
    if (event.altKey || event.ctrlKey || event.metaKey || !singleKeysWork()) return;
    if (event.target.matches?.("input:not([type=radio]), select, textarea") || document.querySelector("dialog[open]")) return;
    if (!/^[1-7npdg]$/.test(event.key)) return;
    event.preventDefault(); // else the letter lands in the field that is given the focus
    if (/[1-7]/.test(event.key)) return this.goTo(STATIONS[event.key - 1]);
    if (event.key === "g") return this.stations().includes("gauges") ? this.goTo("gauges") : undefined;
    if (event.key === "n") return this.next();
    if (event.key === "p" && this.step(-1)) return this.goToStop(this.step(-1).dataset.stopId);
    if (event.key === "d") {
      if (!["read", "judge"].includes(this.station)) this.goTo("read");
      return [...this.$root.querySelectorAll(".spot")].find((found) => found.getBoundingClientRect().width > 0)?.focus();
    }
  },
};
