// Keys of every page: ? shows the key sheet, / finds a house. Single keys can be switched off on the key sheet.
const SWITCH = "single-keys";

export const singleKeysWork = () => localStorage.getItem(SWITCH) !== "off";

export function keys() {
  const sheet = document.getElementById("keys");
  const box = document.querySelector("[data-single-keys]");
  if (box) {
    box.checked = singleKeysWork();
    box.addEventListener("change", () => localStorage.setItem(SWITCH, box.checked ? "on" : "off"));
  }
  for (const button of document.querySelectorAll("[data-show-keys]")) button.addEventListener("click", () => sheet.showModal());
  document.addEventListener("keydown", (event) => {
    if (event.altKey || event.ctrlKey || event.metaKey || !singleKeysWork() || document.querySelector("dialog[open]")) return;
    if (event.target.matches?.("input:not([type=radio]), select, textarea")) return;
    if (event.key === "?" && sheet) {
      event.preventDefault();
      sheet.showModal();
    }
    if (event.key === "/") {
      event.preventDefault();
      const find = document.querySelector("[data-find]");
      if (find) find.focus();
      else location.href = `${document.body.dataset.houses}#find`;
    }
  });
}
