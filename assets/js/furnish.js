// What is alike at every place (a probe's line, the buttons below, how a figure is typed) comes once with the page, as a template: each place gets its own before anything else.
export function furnish(form) {
  const copy = (part) => form.querySelector(`template[data-part="${part}"]`).content.cloneNode(true);
  for (const input of form.querySelectorAll("input[data-field]")) {
    [input.inputMode, input.enterKeyHint, input.maxLength] = ["decimal", "next", 20];
    input.setAttribute("aria-describedby", input.id.replace(/^in-/, "note-"));
  }
  for (const box of form.querySelectorAll("[data-live-stop]")) {
    const live = copy("live");
    live.querySelector(".unseen").textContent = `${box.dataset.label}: `;
    if (box.dataset.probe) live.querySelector("select").append(new Option(box.dataset.probeName, box.dataset.probe, true, true));
    box.append(live);
  }
  for (const foot of form.querySelectorAll(".stop-foot")) {
    const buttons = copy("foot");
    buttons.querySelector(".unseen").textContent = `${foot.closest(".stop").dataset.name}: not possible, because`;
    foot.append(buttons);
  }
}
