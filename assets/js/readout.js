// Hover, focus or tap on a state of the chart: its values are said in the line below.
export function readout(root) {
  const say = (event) => {
    const mark = event.target.closest?.("[data-readout]");
    const line = mark?.closest("figure")?.querySelector("[data-readout-line]");
    if (line) line.textContent = mark.dataset.readout;
  };
  for (const kind of ["pointerover", "focusin", "click"]) root.addEventListener(kind, say);
}
