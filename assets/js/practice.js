// A simulated house's panel on its sheet: time passes while it is looked at; what is turned goes to the server at once.
import htmx from "htmx.org";

const EVERY_MS = 1000;

export function practice(root) {
  let busy = false;
  const panel = () => root.querySelector("form[data-practice]");
  async function send(address, body) {
    const now = panel().querySelector("[data-practice-now]");
    const response = await fetch(address, { method: "POST", headers: { "X-CSRFToken": document.body.dataset.csrf }, body }).catch(() => null);
    if (response?.ok && !response.redirected) now.innerHTML = await response.text();
    else now.textContent = "No answer: no time passes in the house.";
    return response?.ok;
  }
  setInterval(async () => {
    if (!panel() || busy || document.visibilityState !== "visible") return;
    busy = true;
    await send(panel().dataset.look, new FormData());
    busy = false;
  }, EVERY_MS);
  root.addEventListener("submit", (event) => event.target === panel() && event.preventDefault());
  root.addEventListener("input", ({ target }) => {
    const shown = panel()?.contains(target) && target.closest("label").querySelector("[data-shown]");
    if (shown) shown.textContent = target.value;
  });
  root.addEventListener("change", ({ target }) => panel()?.contains(target) && send(panel().dataset.turn, new FormData(panel())));
  root.addEventListener("click", async ({ target }) => {
    const button = target.closest("[data-forward-minutes]");
    if (!button) return;
    const body = new FormData();
    body.append("minutes", button.dataset.forwardMinutes);
    panel().querySelector("[data-practice-now]").textContent = "Time passes …";
    for (const other of panel().querySelectorAll("button")) other.disabled = true;
    await send(panel().dataset.forward, body);
    for (const other of panel().querySelectorAll("button")) other.disabled = false;
    const work = document.querySelector("form.work");
    if (work) htmx.trigger(work, "preview");
  });
}
