// The settle clocks, of the system and of a step of charge: worked out from when they started, so that a locked phone loses nothing.
export function clock(root) {
  const at = (moment) => (moment ? Date.parse(moment) : NaN);
  const tick = () => {
    const walk = document.getElementById("walk");
    const box = root.querySelector("[data-clock]");
    const seconds = Math.max(0, Math.floor((Date.now() - at(walk.dataset.started)) / 1000));
    if (!Number.isNaN(seconds)) {
      const settle = 60 * Number(box.dataset.settle);
      const left = Math.ceil((settle - seconds) / 60);
      box.querySelector("[data-clock-face]").textContent = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
      box.querySelector("[data-clock-bar]").setAttribute("width", 300 * Math.min(1, seconds / settle));
      box.querySelector("[data-clock-says]").textContent = left > 0 ? `${left} min to settle. Look and listen meanwhile.` : "Settled by the clock.";
    }
    for (const step of root.querySelectorAll("[data-until]")) {
      const left = Math.ceil((at(step.dataset.until) - Date.now()) / 1000);
      step.textContent = left > 0 ? `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")} to settle` : "Settled by the clock.";
    }
    const minutes = Math.floor((at(walk.dataset.leaveBy) - Date.now()) / 60000);
    if (!Number.isNaN(minutes)) root.querySelector("[data-countdown]").textContent = `${minutes} min`;
  };
  setInterval(tick, 1000);
  document.addEventListener("htmx:afterSettle", tick);
  addEventListener("visibilitychange", tick);
  tick();
}
