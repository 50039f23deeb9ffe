// The state under pointer, finger or focus, written out under the chart.
export function readout(root) {
  const show = (mark) => {
    const line = mark?.closest("figure")?.querySelector("[data-readout-line]");
    if (line) line.textContent = mark.dataset.readout;
  };
  for (const kind of ["pointerover", "focusin", "click"]) {
    root.addEventListener(kind, ({ target }) => show(target.closest?.("[data-readout]")));
  }
  // A preview brings the chart anew: what is still under the pointer or in focus stays written.
  root.addEventListener("htmx:afterSettle", () => show(root.querySelector("[data-readout]:hover, [data-readout]:focus")));
}
