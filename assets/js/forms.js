// Small helps for plain forms: a number for what is pressed twice, a file read into a box, a picture sent as it is chosen.
import htmx from "htmx.org";
import { keepPlate } from "./plate.js";

export function forms(root) {
  for (const form of root.querySelectorAll("form[data-once]")) {
    form.elements.visit.value = crypto.randomUUID();
  }
  root.addEventListener("change", async ({ target }) => {
    if (target.dataset?.readInto && target.files.length) {
      const box = document.getElementById(target.dataset.readInto);
      box.value = await target.files[0].text();
      htmx.trigger(box.form, "input");
    }
    if (target.dataset?.submit !== undefined && target.files.length) target.form.requestSubmit();
  });
  // In a form that also previews through htmx, the button that keeps is an ordinary post.
  root.addEventListener("click", async (event) => {
    const button = event.target.closest?.("[data-plain-post]");
    if (!button) return;
    event.preventDefault();
    await keepPlate();
    HTMLFormElement.prototype.submit.call(button.form);
  });
}
